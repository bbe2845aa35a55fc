import { useEffect, useState } from 'react';
import { pictureUrl } from '../server/api.ts';

/** A picture fetched by its hash: null until it is there, `missing` when the server does not have it. */
export function usePicture(hash: string | null): HTMLImageElement | null | 'missing' {
  const [fetched, setFetched] = useState<{ readonly hash: string; readonly image: HTMLImageElement | 'missing' } | null>(null);
  useEffect(() => {
    if (hash === null) return;
    const image = new Image();
    image.onload = () => setFetched({ hash, image });
    image.onerror = () => setFetched({ hash, image: 'missing' });
    image.src = pictureUrl(hash);
    return () => {
      image.onload = null;
      image.onerror = null;
    };
  }, [hash]);
  return fetched?.hash === hash ? fetched.image : null;
}
