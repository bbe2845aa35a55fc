/**
 * What this browser keeps for us. It may keep nothing (blocked by a setting, or full): reading then finds nothing, what is
 * kept is kept for this page only, and `blocked` says so.
 */
export interface Storing {
  get(name: string): string | null;
  /** Throws when there is no room for it. */
  set(name: string, text: string): void;
  remove(name: string): void;
  names(): readonly string[];
  /** Whether the browser lets Dial keep nothing here that outlives the page. */
  blocked(): boolean;
}

function storing(find: () => Storage): Storing {
  const memory = new Map<string, string>();
  /** Even to look at a storage that is blocked throws. */
  const storage = (): Storage | null => {
    try {
      return find();
    } catch {
      return null;
    }
  };
  return {
    blocked: () => storage() === null,
    get: (name) => storage()?.getItem(name) ?? memory.get(name) ?? null,
    set(name, text) {
      const found = storage();
      if (found === null) memory.set(name, text);
      else found.setItem(name, text);
    },
    remove(name) {
      memory.delete(name);
      storage()?.removeItem(name);
    },
    names: () => [...memory.keys(), ...Object.keys(storage() ?? {})],
  };
}

/** Outlives the page. */
export const lasting = storing(() => localStorage);
/** Outlives a reload of this tab. */
export const ofThisTab = storing(() => sessionStorage);

/** Keeps how one looks at things, where there is room for it. */
export function remember(name: string, text: string): void {
  try {
    lasting.set(name, text);
  } catch {
    lasting.remove(name); // Looks are no work: when there is no room they are as at first next time.
  }
}
