import { useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { Button, Notice } from './controls.tsx';

/** How soon what is likely to be shown is fetched before it is: once the page has come to rest. Milliseconds. */
const SOON = 1500;

interface LaterOptions {
  /** Stands there until the part has come. */
  readonly meanwhile?: ReactNode;
  /** Fetched before it is shown too, so that a key which opens it is not followed by a wait. */
  readonly soon?: boolean;
}

/**
 * A part of the page whose script the page does not wait for. When it cannot be fetched that is said where it would be, and
 * it can be tried again: nothing else of the page goes with it.
 */
export function later<Props extends object>(
  fetchIt: () => Promise<ComponentType<Props>>,
  { meanwhile = null, soon = false }: LaterOptions = {},
): ComponentType<Props> {
  let fetched: ComponentType<Props> | null = null;
  const get = async (): Promise<ComponentType<Props>> => (fetched ??= await fetchIt());
  // What does not come now is asked for again, and spoken of, when it is shown.
  if (soon) setTimeout(() => void get().catch(() => null), SOON);
  return function Later(props: Props) {
    const [Part, setPart] = useState(() => fetched);
    const [tries, setTries] = useState(0);
    const [failed, setFailed] = useState(false);
    useEffect(() => {
      if (Part !== null) return;
      let wanted = true;
      get().then(
        (part) => wanted && setPart(() => part),
        () => wanted && setFailed(true),
      );
      return () => {
        wanted = false;
      };
    }, [Part, tries]);
    if (Part !== null) return <Part {...props} />;
    if (!failed) return meanwhile;
    return (
      <Notice>
        This part of Dial could not be fetched from its server.
        <Button
          onClick={() => {
            setFailed(false);
            setTries(tries + 1);
          }}
        >
          Try again
        </Button>
      </Notice>
    );
  };
}
