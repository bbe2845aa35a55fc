import { entry, fieldAt, inOrder, levelFields, type Level, type Persona, personaDials } from '@dial/core/level';
import { playedBy } from '@dial/core/players';
import { useNavigate } from 'react-router';
import { Folded } from '../controls/Folded.tsx';
import { Select } from '../controls/Select.tsx';
import { FieldEditor } from '../fields/FieldEditor.tsx';
import { setValue } from '../state/document/edits.ts';
import { walkOf } from '../state/slices/simulated.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { DialGroup } from './DialGroup.tsx';

interface PersonaProps {
  readonly level: Level;
  readonly id: string;
  readonly persona: Persona;
}

/** The dials of a persona that plays the run on the Strip. */
function PersonaColumn({ level, id, persona }: PersonaProps) {
  const store = useAppStore();
  const boosts = fieldAt(levelFields(), level, `/personas/${id}/boosts`);
  return (
    <Folded name="persona" heading={`${persona.name}, who plays this run`} className="mb-4" headingClass="text-base font-bold">
      <p className="my-2 rounded-sm border-l-[3px] border-ink bg-card px-2.5 py-1.5 text-[12.5px]">
        Turn any of these, and the whole session is played anew.
      </p>
      <DialGroup specs={personaDials(level, id)} level={level} />
      {boosts !== null && (
        <FieldEditor
          field={boosts}
          value={persona.boosts}
          label="boosts"
          level={level}
          onSet={(next) => setValue(store, [`/personas/${id}/boosts`], `${persona.name}: boosts`, next)}
        />
      )}
    </Folded>
  );
}

/** Which persona plays which player, where there are several. */
function WhoPlays({ level, playing }: { readonly level: Level; readonly playing: readonly string[] }) {
  const navigate = useNavigate();
  const route = useAppSelector((state) => state.simulated.run?.route);
  const all = Array.from({ length: level.players.count }, (_, player) => playedBy(playing, player));
  return (
    <div className="mb-3 flex flex-wrap gap-x-4 gap-y-1 text-xs">
      {all.map((id, player) => (
        <label key={player} className="flex items-center gap-1.5">
          player {player + 1}
          <Select
            label={`Who plays player ${String(player + 1)}`}
            value={id}
            options={inOrder(level.personas).map(([one, { name }]) => [one, name] as const)}
            onChoose={(chosen) => {
              const personas = all.map((one, at) => (at === player ? chosen : one));
              void navigate(`?run=${encodeURIComponent(walkOf({ personas, route }))}`);
            }}
          />
        </label>
      ))}
    </div>
  );
}

/** Who plays the run on the Strip, where personas do: which of them which player, and their dials. */
export function PersonaColumns({ level }: { readonly level: Level }) {
  const playing = useAppSelector((state) => state.simulated.run?.personas);
  if (playing === undefined) return null;
  return (
    <>
      {level.players.count > 1 && <WhoPlays level={level} playing={playing} />}
      {[...new Set(playing)].map((id) => {
        const persona = entry(level.personas, id);
        return persona !== undefined && <PersonaColumn key={id} level={level} id={id} persona={persona} />;
      })}
    </>
  );
}
