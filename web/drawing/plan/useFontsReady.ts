import { useEffect, useState } from 'react';

const FACES = ['600 11px "IBM Plex Mono"', '400 11px "IBM Plex Mono"'];

/** Whether the faces that drawing surfaces measure text with are there; until then widths would be another font's. */
export function useFontsReady(): boolean {
  const [ready, setReady] = useState(() => FACES.every((face) => document.fonts.check(face)));
  useEffect(() => {
    if (ready) return;
    const done = (): void => setReady(true);
    // Without its fonts the page draws with the next in line.
    Promise.all(FACES.map((face) => document.fonts.load(face))).then(done, done);
  }, [ready]);
  return ready;
}
