import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';

/** The SHA-256 of some bytes, in hexadecimal digits. The browser's own is there only on secure addresses. */
export const sha256Of = (bytes: ArrayBuffer): string => bytesToHex(sha256(new Uint8Array(bytes)));
