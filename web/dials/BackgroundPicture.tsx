import { Refused } from '../controls/controls.tsx';
import { reasonOf } from '@dial/core/level';
import type { Level } from '@dial/core/level';
import { useState } from 'react';
import { api } from '../state/server/api.ts';
import { setValue } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { usePicture } from '../state/sync/usePicture.ts';
import { FileButton } from '../controls/FileButton.tsx';

/** Takes a picture to draw over: it is kept by the server and laid under the Plan as wide as the level. */
export function BackgroundPicture({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const missing = usePicture(level.background?.picture ?? null) === 'missing';
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = async (file: File): Promise<void> => {
    try {
      const image = await createImageBitmap(file).catch(() => {
        throw new Error(`“${file.name}” is not a picture that can be shown.`);
      });
      const picture = await api.putPicture(file);
      const { background, size } = level;
      const placed = background ?? { x: 0, y: 0, pixelsPerUnit: Number((image.width / size.width).toFixed(4)), strength: 0.5 };
      setTrouble(setValue(store, ['/background'], 'background picture', { ...placed, picture }));
    } catch (error) {
      setTrouble(`Not taken: ${reasonOf(error)}`);
    }
  };
  return (
    <>
      <FileButton
        label="Picture to lay under the Plan"
        accept="image/png,image/jpeg,image/webp"
        className="mt-1.5 text-xs"
        onFile={(file) => void take(file)}
      >
        {level.background === null ? 'Choose a picture …' : 'Another picture …'}
      </FileButton>
      {missing && <p className="mt-1 text-xs">The picture is not kept here: a level file states only where it lies. Choose it again.</p>}
      <Refused why={trouble} />
    </>
  );
}
