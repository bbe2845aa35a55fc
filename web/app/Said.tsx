import { useState } from 'react';
import { Toast } from '../controls/Toast.tsx';
import { redo, undo } from '../state/document/edits.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';

/** What was undone, redone or deleted just now: it may lie elsewhere than what is seen. */
export function Said() {
  const store = useAppStore();
  const said = useAppSelector((state) => state.document.said);
  const [over, setOver] = useState(said?.serial ?? 0);
  const back = said?.offers === 'redo' ? (['Redo', 'Redo it with Shift+Ctrl+Z'] as const) : (['Undo', 'Undo it with Ctrl+Z'] as const);
  return (
    <Toast
      key={said?.serial}
      label="Done just now"
      open={said !== null && said.serial !== over}
      onClose={() => setOver(said?.serial ?? 0)}
      action={[...back, () => (said?.offers === 'redo' ? redo : undo)(store)]}
    >
      {said?.words}
    </Toast>
  );
}
