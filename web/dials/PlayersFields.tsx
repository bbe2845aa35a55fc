import { type Level, named } from '@dial/core/level';
import { sayRefused, setValue } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { Choice, entriesOf, Typed } from '../fields/fieldInputs.tsx';

/** What each player has of its own: where it starts, and its tags besides those of the body. */
export function PlayersFields({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const { count, starts, tags } = level.players;
  const setStart = (player: number, point: string): void => {
    // Starts are listed from the first player on: without one of its own, whoever comes after has none either.
    const next = point === '' ? starts.slice(0, player) : starts.map((id, at) => (at === player ? point : id));
    if (point !== '' && player === starts.length) next.push(point);
    sayRefused(store, setValue(store, ['/players/starts'], `start of player ${String(player + 1)}`, next));
  };
  const setTags = (player: number, typed: string): string | null => {
    const words = typed.split(',').flatMap((word) => (word.trim() === '' ? [] : [word.trim()]));
    const next = Array.from({ length: Math.max(tags.length, player + 1) }, (_, at) => (at === player ? words : (tags[at] ?? [])));
    return setValue(store, ['/players/tags'], `tags of player ${String(player + 1)}`, next);
  };
  return Array.from({ length: count }, (_, player) => (
    <fieldset key={player} className="mt-1.5 border-l-2 border-line pl-2">
      <legend className="text-[11px] font-bold text-soft">player {player + 1}</legend>
      {player > starts.length ? (
        <p className="text-xs text-soft">Starts where the level does; give player {player} a start of its own first.</p>
      ) : (
        <Choice
          label="starts at"
          hint="A point of its own, or where the level starts."
          value={starts[player] ?? ''}
          options={[['', 'the start of the level'], ...entriesOf(level, 'points')]}
          onChoose={(point) => setStart(player, point)}
        />
      )}
      <Typed
        label="its tags"
        hint="Words that rules tell it from the others by, separated by commas; it has the tags of the body besides."
        text={(tags[player] ?? []).join(', ')}
        suggestions={named(level, 'tags').map(([tag]) => tag)}
        read={(typed) => setTags(player, typed)}
      />
    </fieldset>
  ));
}
