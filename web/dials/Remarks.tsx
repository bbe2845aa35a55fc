import type { Problem } from '@dial/core/level';

/** What may be set so and is probably not meant so, and what comes of it. */
export function Remarks({ remarks }: { readonly remarks: readonly Problem[] }) {
  if (remarks.length === 0) return null;
  return (
    <ul aria-label="Worth a look" className="mb-2 rounded-sm border border-line bg-card px-2.5 py-1.5 text-[12.5px]">
      {remarks.map(({ path, message }) => (
        <li key={path + message}>
          <b>Worth a look</b> {message}.
        </li>
      ))}
    </ul>
  );
}
