/** A new id, unlike any other. `crypto.randomUUID` is there only on secure addresses; a server with a token may have another. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}
