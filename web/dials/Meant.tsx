import { Radios } from '../controls/Radios.tsx';
import { viewActions } from '../state/slices/view.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';

/** Whether what is turned is meant for all of a kind, or only for the things chosen. */
export function Meant({ every, count }: { readonly every: string; readonly count: number }) {
  const dispatch = useAppDispatch();
  const only = useAppSelector((state) => state.view.onlyThese);
  const choices = [
    ['kind', every],
    ['these', count === 1 ? 'only this one' : `only these ${String(count)}`],
  ] as const;
  return (
    <div className="text-[11.5px]">
      <Radios
        label="turned for"
        value={only ? 'these' : 'kind'}
        options={choices}
        onChoose={(whom) => dispatch(viewActions.meantFor(whom))}
      />
    </div>
  );
}
