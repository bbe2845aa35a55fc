import { entry, kindBeginnings, kindOf, type Level } from '@dial/core/level';
import { makeKind, makeVariant } from '../state/document/authoring.ts';
import { viewActions } from '../state/slices/view.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { Menu, MenuItem, MenuLine } from '../controls/Menu.tsx';
import { roleColour } from '../drawing/roles.ts';

/** Makes a kind, from what it begins as or based on the chosen one. */
export function NewKind({ level, selected }: { readonly level: Level; readonly selected: string | null }) {
  const store = useAppStore();
  const open = useAppSelector((state) => state.view.panel === 'new kind');
  const setOpen = (shown: boolean): void => void store.dispatch(viewActions.panelShown(shown ? 'new kind' : null));
  // The chosen kind, and what that is itself based on.
  const bases = selected === null ? [] : [selected, ...[entry(level.variants, selected)?.basedOn ?? []].flat()];
  return (
    <div className="px-2.5">
      <Menu label="New kind" className="w-[400px]" open={open} onOpen={setOpen} button={<Button>New kind</Button>}>
        {kindBeginnings(level).map(({ beginning, item, role, words }) => (
          <MenuItem key={`${beginning} ${item ?? ''}`} onChoose={() => makeKind(store, beginning, item)}>
            <b className="w-20 shrink-0" style={{ color: roleColour(role) }}>
              {beginning}
            </b>
            <span className="text-xs">{words}</span>
          </MenuItem>
        ))}
        {bases.length > 0 && <MenuLine />}
        {bases.map((base) => (
          <MenuItem key={base} onChoose={() => makeVariant(store, base)}>
            <b className="shrink-0">based on {kindOf(level, base)?.name}</b>
            <span className="text-xs">the same, until values are changed</span>
          </MenuItem>
        ))}
      </Menu>
    </div>
  );
}
