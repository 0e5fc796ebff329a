import { createHash } from 'node:crypto';

/**
 * A UUID of its own kind (RFC 9562, version 8) that is always the same for the same text.
 * @param place where it is to stand in the order of its fellows, below 2^32; by the text alone where none is given
 */
export function uuidFrom(text: string, place?: number): string {
  const digest = createHash('sha256').update(text).digest('hex');
  const hex = (place?.toString(16).padStart(8, '0') ?? digest.slice(0, 8)) + digest.slice(8);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
