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
  readonly onFile: (file: File) => void;
  readonly kind?: 'plain' | 'quiet';
  readonly className?: string;
  /** The command that presses it. */
  readonly command?: string;
  readonly children: ReactNode;
}

/** Reads the text of a chosen file. */
export const readChosen = async (file: File): Promise<ChosenFile> => ({ name: file.name, text: await file.text() });

/** A button that asks for a file. */
export function FileButton({ label, accept, onFile, kind = 'quiet', className = '', command, children }: FileButtonProps) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button kind={kind} className={className} data-command={command} onClick={() => chooser.current?.click()}>
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
          if (chosen !== undefined) onFile(chosen);
        }}
      />
    </>
  );
}
