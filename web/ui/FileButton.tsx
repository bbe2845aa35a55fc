import { useRef, type ReactNode } from 'react';
import { Button } from './controls.tsx';

/** A text file that was chosen. */
export interface ChosenFile {
  readonly name: string;
  readonly text: string;
}

interface FileButtonProps {
  readonly label: string;
  readonly accept: string;
  readonly onFile: (file: ChosenFile) => void;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A button that asks for a file and reads its text. */
export function FileButton({ label, accept, onFile, className = '', children }: FileButtonProps) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button kind="quiet" className={className} onClick={() => chooser.current?.click()}>
        {children}
      </Button>
      <input
        ref={chooser}
        type="file"
        accept={accept}
        aria-label={label}
        className="hidden"
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          event.target.value = '';
          void chosen?.text().then((text) => onFile({ name: chosen.name, text }));
        }}
      />
    </>
  );
}
