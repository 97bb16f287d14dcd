/**
 * 64 bits of FNV-1a as 16 hex digits, over UTF-16 code units. Two runs with different offset bases stand in for the
 * 64-bit variant, which would need BigInt. Constants: the FNV reference (offset basis 2166136261, prime 16777619);
 * the second basis was chosen by hand. A fingerprint for matching, never for security.
 */
export function fingerprint(text: string): string {
  return fnv(text, 0x811c9dc5) + fnv(text, 0x9e3779b9);
}

function fnv(text: string, basis: number): string {
  let hash = basis;
  for (let i = 0; i < text.length; i++) {
    hash ^= text.charCodeAt(i);
    hash = Math.imul(hash, 0x01000193);
  }
  return (hash >>> 0).toString(16).padStart(8, '0');
}
