import { setNonce } from 'get-nonce';

/** What the server lets styles be known by that a package puts into the page; undefined where it asks for none. */
export const nonce = (): string | undefined => document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.nonce;

/** Tells packages that put styles into the page what they are to be known by. */
export function passNonceOn(): void {
  const known = nonce();
  if (known !== undefined) setNonce(known);
}
