import { viewActions } from '../state/slices/view.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';

/** Whether what is turned is meant for all of a kind, or only for the things chosen. */
export function Meant({ every, count }: { readonly every: string; readonly count: number }) {
  const dispatch = useAppDispatch();
  const only = useAppSelector((state) => state.view.onlyThese);
  const choices = [
    [false, every],
    [true, count === 1 ? 'only this one' : `only these ${String(count)}`],
  ] as const;
  return (
    <fieldset className="flex items-center gap-1 text-[11.5px]">
      <legend className="float-left mr-1 text-soft">turned for</legend>
      {choices.map(([value, words]) => (
        <label
          key={words}
          className={`cursor-pointer rounded-sm border px-1.5 ${only === value ? 'border-ink bg-card font-semibold' : 'border-line'}`}
        >
          <input
            type="radio"
            name="meant"
            className="sr-only"
            checked={only === value}
            onChange={() => dispatch(viewActions.meantFor(value ? 'these' : 'kind'))}
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}
