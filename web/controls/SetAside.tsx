import { useState } from 'react';
import { Button } from './controls.tsx';

interface SetAsideProps {
  /** Keeps the reason. Answers whether it was kept. */
  readonly onKeep: (reason: string) => boolean;
  readonly onClose: () => void;
}

/** Asks for the reason for which a finding is set aside. */
export function SetAside({ onKeep, onClose }: SetAsideProps) {
  const [reason, setReason] = useState('meant so');
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (onKeep(reason)) onClose();
      }}
    >
      <label className="flex items-center gap-1">
        because
        <input
          className="w-64 rounded-sm border border-line bg-card px-1 py-0.5"
          maxLength={80}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      <Button type="submit" kind="strong" disabled={reason.trim() === ''}>
        Set aside
      </Button>
      <Button kind="quiet" onClick={onClose}>
        Leave it
      </Button>
    </form>
  );
}
