import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { AppHeader } from '../controls/AppHeader.tsx';
import { Button } from '../controls/controls.tsx';
import { commandsOn, keyWords } from './commands.ts';

/** Keys that belong to one part and are no commands: where they work, and what they do there. */
const OTHERS: readonly (readonly [part: string, keys: readonly (readonly [key: string, does: string])[]])[] = [
  [
    'On a dial',
    [
      ['← → ↑ ↓', 'turn by a step; Shift finely, Alt coarsely'],
      ['Page up, Page down', 'ten steps'],
      ['Home, End', 'the ends of the ruler'],
      ['Enter', 'in its field: takes the number and goes to the ruler'],
      ['Delete', 'back to the compared version'],
    ],
  ],
  [
    'On the Plan',
    [
      ['← → ↑ ↓', 'nudge what is chosen by a quarter unit; Shift a whole one, Alt 0.05'],
      ['Enter', 'with a drawing tool: put one into the middle; ends a path'],
      ['+ −', 'nearer, further'],
      ['0', 'the whole level'],
      ['Space held', 'shift the view by dragging'],
      ['Alt held', 'drag without snapping'],
      ['Shift held', 'with Place: fill an area; else: choose more'],
    ],
  ],
  [
    'In the Tray',
    [
      ['Enter', 'choose a kind'],
      ['Alt + ← →', 'put it earlier or later'],
    ],
  ],
  [
    'On the Strip and its needle',
    [
      ['← →', 'a tenth of a second; Shift one step'],
      ['Page up, Page down', 'further'],
      ['Home, End', 'start and end of the run'],
      ['+ − 0', 'nearer, further, the whole run; Ctrl + wheel does too'],
      ['Shift held', 'pull out a stretch and read what it comes to'],
    ],
  ],
  [
    'On the Sheet',
    [
      ['← → ↑ ↓', 'go about; with Shift choose a block, with Ctrl to the end'],
      ['Enter or a digit', 'type a number'],
      ['Ctrl + C, Ctrl + V', 'copy and paste a block, as in a spreadsheet'],
      ['Delete', 'follow the kind again'],
    ],
  ],
  [
    'In Play',
    [
      ['arrows or W A S D', 'walk; up or Space jumps where one is seen from the side'],
      ['E', 'use what is near'],
      ['Q, F, X', 'hold the next item, use it, drop it'],
      ['Keys', 'under the level: the keys and gamepads of up to four players, and keys for what happens from outside'],
      ['P, N', 'pause; one step of the session'],
      ['[ ]', 'slower, faster'],
      ['R', 'begin again'],
      ['M, G', 'sound; the whole screen'],
      ['Esc', 'end, and see the run'],
    ],
  ],
];

function Table({ name, keys }: { readonly name: string; readonly keys: readonly (readonly [key: string, does: string])[] }) {
  return (
    <section className="mb-5 break-inside-avoid">
      <h2 className="border-b border-ink pb-0.5 font-bold">{name}</h2>
      <dl>
        {keys.map(([key, does]) => (
          <div key={key} className="flex gap-3 border-b border-line py-0.5">
            <dt className="w-36 shrink-0 font-mono text-xs leading-5">{key}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** All keys on one page. */
export function KeysPage() {
  const navigate = useNavigate();
  useEffect(() => {
    document.title = 'Keys · Dial';
  }, []);
  return (
    <div className="flex h-full flex-col">
      <AppHeader>
        <h1 className="text-sm font-bold">Keys</h1>
        <Button kind="quiet" className="ml-auto" onClick={() => void navigate(-1)}>
          Back
        </Button>
      </AppHeader>
      <main className="min-h-0 flex-1 overflow-y-auto p-5" tabIndex={0}>
        <div className="mx-auto max-w-[1080px] gap-8 lg:columns-2">
          <Table name="Commands" keys={commandsOn('bench').map(({ key, name }) => [keyWords(key), name])} />
          <Table
            name="Commands of the Sheet"
            keys={commandsOn('sheet').flatMap(({ on, key, name }) => (on === 'sheet' ? [[keyWords(key), name] as const] : []))}
          />
          {OTHERS.map(([part, keys]) => (
            <Table key={part} name={part} keys={keys} />
          ))}
        </div>
      </main>
    </div>
  );
}
