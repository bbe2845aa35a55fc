interface SearchFieldProps {
  readonly label: string;
  readonly hint: string;
  readonly width: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly onEnter?: () => void;
}

/** A field that narrows a list or a table to what has these words. */
export function SearchField({ label, hint, width, value, onChange, onEnter }: SearchFieldProps) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={hint}
      className={`rounded-sm border border-line bg-card px-1.5 py-0.5 ${width}`}
      value={value}
      onChange={(event) => onChange(event.target.value)}
      onKeyDown={({ key }) => {
        if (key === 'Enter') onEnter?.();
      }}
    />
  );
}
