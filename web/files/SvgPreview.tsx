import { groupsOf, likelyMeaning, placeSvg, readSvg, type BecomesOf, type NamedBy } from '@dial/core/formats';
import { allKinds, type Level } from '@dial/core/level';
import { useMemo, useState } from 'react';
import { writeMany } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { Select } from '../controls/Select.tsx';
import { ChangePreview } from '../controls/ChangePreview.tsx';
import type { ChosenFile } from '../controls/FileButton.tsx';

const NAMED_BY: readonly NamedBy[] = ['class', 'layer', 'id'];

interface PreviewProps {
  readonly level: Level;
  readonly file: ChosenFile;
  readonly onClose: () => void;
}

const meaningText = (meaning: BecomesOf): string => (meaning.type === 'kind' ? `kind ${meaning.kind}` : meaning.type);
const meaningOf = (text: string): BecomesOf =>
  text.startsWith('kind ') ? { type: 'kind', kind: text.slice(5) } : { type: text === 'solid' ? 'solid' : 'nothing' };

/** Shapes of a drawing: by which of their names they are told apart, and what those of each name become. */
export function SvgPreview({ level, file, onClose }: PreviewProps) {
  const store = useAppStore();
  const read = useMemo(() => readSvg(file.text), [file.text]);
  const shapes = useMemo(() => (read.ok ? read.shapes : []), [read]);
  const likely = NAMED_BY.find((by) => groupsOf(shapes, by).some(({ name }) => likelyMeaning(level, name).type !== 'nothing'));
  const [by, setBy] = useState<NamedBy>(likely ?? 'class');
  const [chosen, setChosen] = useState<Readonly<Record<string, BecomesOf>>>({});
  const [perUnit, setPerUnit] = useState(String(Number((1 / level.scale.unitsPerPixel).toFixed(4))));
  const pixels = Number(perUnit.replace(',', '.'));
  const sound = Number.isFinite(pixels) && pixels > 0;
  const groups = groupsOf(shapes, by);
  const meanings = new Map(groups.map(({ name }) => [name, chosen[name] ?? likelyMeaning(level, name)] as const));
  const placed = placeSvg(level, sound ? shapes : [], { by, meanings, unitsPerPixel: sound ? 1 / pixels : 1 });
  const whole = read.ok ? read.refused : [read.why];
  const refused = [...whole.map((why) => ({ line: 0, text: '', why })), ...placed.refused];
  return (
    <ChangePreview
      name={file.name}
      reading={{ ...placed, refused }}
      counts="shape"
      onMake={() => void writeMany(store, `shapes from ${file.name}`, placed.changes)}
      onClose={onClose}
    >
      <div className="flex flex-wrap items-center gap-3 text-xs">
        <label className="flex items-center gap-1">
          shapes are named by their
          <Select
            label="shapes are named by their"
            value={by}
            options={NAMED_BY.map((one) => [one, one])}
            onChoose={(next) => {
              setBy(next);
              setChosen({});
            }}
          />
        </label>
        <label className="flex items-center gap-1">
          <input
            inputMode="decimal"
            aria-label="Pixels a unit"
            aria-invalid={!sound}
            className="w-16 rounded-sm border border-line bg-card px-1 text-right font-mono aria-invalid:border-harm"
            value={perUnit}
            onChange={(event) => setPerUnit(event.target.value)}
          />
          px a unit
        </label>
      </div>
      {groups.length > 0 && (
        <ul aria-label="What each name becomes" className="max-h-40 overflow-y-auto text-xs">
          {groups.map(({ name, count }) => (
            <li key={name} className="flex items-center gap-2 py-0.5">
              <span className="min-w-0 flex-1 truncate">
                {count} × {name === '' ? 'without a name' : name}
              </span>
              <Select
                label={`${name === '' ? 'without a name' : name} becomes`}
                value={meaningText(meanings.get(name) ?? { type: 'nothing' })}
                options={[
                  ['nothing', 'left out'],
                  ['solid', 'solids'],
                  ...allKinds(level).map(([id, kind]) => [`kind ${id}`, kind.name] as const),
                ]}
                onChoose={(meaning) => setChosen({ ...chosen, [name]: meaningOf(meaning) })}
              />
            </li>
          ))}
        </ul>
      )}
    </ChangePreview>
  );
}
