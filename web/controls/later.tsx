import { useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { Button, Notice } from './controls.tsx';

/**
 * A part of the page whose script is fetched when it is first shown; `meanwhile` stands there until it has come. When it
 * cannot be fetched that is said, and it can be tried again: nothing else of the page goes with it.
 */
export function later<Props extends object>(
  fetchIt: () => Promise<ComponentType<Props>>,
  meanwhile: ReactNode = null,
): ComponentType<Props> {
  let fetched: ComponentType<Props> | null = null;
  return function Later(props: Props) {
    const [Part, setPart] = useState(() => fetched);
    const [tries, setTries] = useState(0);
    const [failed, setFailed] = useState(false);
    useEffect(() => {
      if (Part !== null) return;
      let wanted = true;
      fetchIt().then(
        (part) => {
          fetched = part;
          if (wanted) setPart(() => part);
        },
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
