declare module 'fs-native-extensions' {
  /** Takes an exclusive lock on an open file; answers whether it was free. The system drops it when the file is closed. */
  export function tryLock(descriptor: number): boolean;
}
