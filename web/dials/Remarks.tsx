import type { Problem } from '@dial/core/level';

/** What may be set so and is probably not meant so, and what comes of it. */
export function Remarks({
  remarks,
  where = () => 'Worth a look:',
}: {
  readonly remarks: readonly Problem[];
  /** What a remark is on, where that is not plain from where it stands. */
  readonly where?: (path: string) => string;
}) {
  if (remarks.length === 0) return null;
  return (
    <ul aria-label="Worth a look" className="mb-2 rounded-sm border border-line bg-card px-2.5 py-1.5 text-[12.5px]">
      {remarks.map(({ path, message }) => (
        <li key={path + message}>
          <b>{where(path)}</b> {message}.
        </li>
      ))}
    </ul>
  );
}
