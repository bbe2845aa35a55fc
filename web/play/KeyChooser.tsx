import { readTyped } from '@dial/core/formats';
import { quantities, type Level } from '@dial/core/level';
import { useEffect, useRef, useState } from 'react';
import { Select } from '../controls/Select.tsx';
import { Button, Refused } from '../controls/controls.tsx';
import { outsideChoices, outsideOf, outsideWords } from '../fields/eventWords.ts';
import { hasAmount, OutsideFields, type Stated } from '../fields/OutsideFields.tsx';
import { Popover } from '../controls/Popover.tsx';
import { ACTIONS, actions, keyName, MOST_EVENT_KEYS, ownerOf, USUAL_KEYS, withKey, type EventKey, type PlayKeys } from './playKeys.ts';

const OF_THE_BROWSER = /^(Control|Alt|Meta|OS|F\d)/;

interface KeyButtonProps {
  readonly label: string;
  readonly code: string | null;
  /** Takes a key; answers why it cannot be had, or null. */
  readonly onKey: (code: string) => string | null;
  readonly onRefused: (why: string | null) => void;
}

/** A key that is chosen by pressing it: the button, then the key. */
function KeyButton({ label, code, onKey, onRefused }: KeyButtonProps) {
  const [waiting, setWaiting] = useState(false);
  const latest = useRef({ onKey, onRefused });
  useEffect(() => {
    latest.current = { onKey, onRefused };
  });
  useEffect(() => {
    if (!waiting) return;
    const listen = (event: KeyboardEvent): void => {
      event.preventDefault();
      event.stopImmediatePropagation();
      setWaiting(false);
      if (event.code === 'Escape') return;
      latest.current.onRefused(
        OF_THE_BROWSER.test(event.code) ? `${event.code} is the browser’s: choose another key.` : latest.current.onKey(event.code),
      );
    };
    const leave = (): void => setWaiting(false);
    addEventListener('keydown', listen, true);
    addEventListener('pointerdown', leave, true);
    return () => {
      removeEventListener('keydown', listen, true);
      removeEventListener('pointerdown', leave, true);
    };
  }, [waiting]);
  const name = code === null ? 'its key' : keyName(code);
  return (
    <button
      type="button"
      aria-label={`${label}: ${waiting ? 'press a key' : name}`}
      className={`min-w-[58px] cursor-pointer rounded-sm border px-1.5 py-px text-center font-mono ${waiting ? 'border-needle bg-card' : 'border-line bg-card hover:border-ink'}`}
      onClick={() => {
        onRefused(null);
        setWaiting(true);
      }}
    >
      {waiting ? 'press it' : name}
    </button>
  );
}

function usePads(): readonly number[] {
  const there = (): number[] => navigator.getGamepads().flatMap((pad, index) => (pad === null ? [] : [index]));
  const [pads, setPads] = useState(there);
  useEffect(() => {
    const look = (): void => setPads(there());
    addEventListener('gamepadconnected', look);
    addEventListener('gamepaddisconnected', look);
    return () => {
      removeEventListener('gamepadconnected', look);
      removeEventListener('gamepaddisconnected', look);
    };
  }, []);
  return pads;
}

interface ChooserProps {
  readonly level: Level;
  readonly keys: PlayKeys;
  readonly events: readonly EventKey[];
  readonly onKeys: (keys: PlayKeys) => void;
  readonly onEvents: (events: readonly EventKey[]) => void;
  /** It is opened: nothing is played meanwhile. */
  readonly onOpen: () => void;
}

function EventKeys({ level, keys, events, onEvents }: ChooserProps) {
  const [stated, setStated] = useState<Stated>({ player: 1, choice: outsideChoices(level)[0]?.value ?? 'leave', by: '-25' });
  const [why, setWhy] = useState<string | null>(null);
  const add = (code: string): string | null => {
    const owner = ownerOf(keys, events, code);
    if (owner !== null) return `${keyName(code)} is ${owner}: choose another.`;
    const read = readTyped(stated.by, quantities.meterValue, null);
    const by = hasAmount(level, stated) && read.ok ? read.value : 0;
    if (hasAmount(level, stated) && by === 0) return 'By how much? A number other than 0, such as −25.';
    if (events.length >= MOST_EVENT_KEYS) return `${String(MOST_EVENT_KEYS)} are as many as there can be.`;
    onEvents([...events, { code, choice: stated.choice, player: stated.player, by }]);
    return null;
  };
  return (
    <section aria-label="From outside">
      <h3 className="font-bold">From outside, by a key</h3>
      {events.length === 0 && <p className="text-soft">None yet: say what happens, then press its key.</p>}
      <ul>
        {events.map((event) => (
          <li key={event.code} className="flex items-center gap-2 py-px">
            <b className="min-w-[58px] text-center font-mono">{keyName(event.code)}</b>
            <span className="flex-1">{outsideWords(level, outsideOf(event.choice, 1, event.player, event.by))}</span>
            <Button kind="quiet" className="py-0!" onClick={() => onEvents(events.filter(({ code }) => code !== event.code))}>
              Delete<span className="sr-only"> the key {keyName(event.code)}</span>
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex items-center gap-1.5">
        <OutsideFields level={level} stated={stated} onState={setStated} />
        <KeyButton label="Add, by a key" code={null} onKey={add} onRefused={setWhy} />
      </div>
      <Refused why={why} />
    </section>
  );
}

/** Where the keys of the players, their gamepads, and keys for what happens from outside are chosen. */
export function KeyChooser(props: ChooserProps) {
  const { level, keys, events, onKeys } = props;
  const [shown, setShown] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const pads = usePads();
  const { count } = level.players;
  const columns = count < 2 ? ['player 1', 'or also'] : Array.from({ length: count }, (_, at) => `player ${String(at + 1)}`);
  const choose = (player: number, action: (typeof actions)[number], code: string): string | null => {
    const owner = ownerOf(keys, events, code);
    const isPlayers = keys.players.some((own) => Object.values(own).includes(code));
    if (owner !== null && !isPlayers) return `${keyName(code)} is ${owner}: choose another.`;
    onKeys(withKey(keys, player, action, code));
    return owner === null || keys.players[player]?.[action] === code
      ? null
      : `${keyName(code)} was ${owner}, which now has the key that was here.`;
  };
  const usual = (): void => {
    const gone = events.filter(({ code }) => ownerOf(USUAL_KEYS, [], code) !== null);
    onKeys(USUAL_KEYS);
    props.onEvents(events.filter((event) => !gone.includes(event)));
    setWhy(
      gone.length === 0 ? null : `From outside, ${gone.map(({ code }) => keyName(code)).join(', ')}: a player’s again, so it is taken off.`,
    );
  };
  const open = (next: boolean): void => {
    setShown(next);
    if (next) props.onOpen();
  };
  return (
    <Popover
      shown={shown}
      onShown={open}
      label="Keys"
      className="flex w-max max-w-[560px] flex-col gap-2 p-2.5 text-xs"
      button={
        <Button kind="quiet" className="py-0.5!" hint="Choose keys and gamepads">
          Keys
        </Button>
      }
    >
      <table>
        <thead>
          <tr>
            <td />
            {columns.map((name) => (
              <th key={name} className="px-1 text-left font-semibold">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {actions.map((action) => (
            <tr key={action}>
              <th className="pr-3 text-left font-normal text-soft">{ACTIONS[action]}</th>
              {columns.map((name, player) => (
                <td key={name} className="px-1 py-px">
                  <KeyButton
                    label={`${name}, ${ACTIONS[action]}`}
                    code={keys.players[player]?.[action] ?? null}
                    onKey={(code) => choose(player, action, code)}
                    onRefused={setWhy}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <Refused why={why} />
      {count > 1 && (
        <section aria-label="Gamepads" className="flex flex-wrap items-center gap-x-3 gap-y-1">
          {pads.length === 0 && <span className="text-soft">No gamepad is heard yet: press a button on it.</span>}
          {pads.slice(0, 4).map((_, index) => (
            <label key={index} className="flex items-center gap-1.5">
              gamepad {index + 1} plays
              <Select
                label={`gamepad ${String(index + 1)} plays`}
                value={String(keys.pads[index])}
                options={columns.map((name, player) => [String(player + 1), name])}
                onChoose={(player) => onKeys({ ...keys, pads: keys.pads.map((own, at) => (at === index ? Number(player) : own)) })}
              />
            </label>
          ))}
        </section>
      )}
      <EventKeys {...props} />
      <Button kind="quiet" className="self-start" onClick={usual} disabled={keys === USUAL_KEYS}>
        The usual keys
      </Button>
    </Popover>
  );
}
