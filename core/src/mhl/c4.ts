const digits = '123456789ABCDEFGHJKLMNPQRSTUVWXYZabcdefghijkmnopqrstuvwxyz';
const length = 88;

/** A C4 identifier (SMPTE ST 2114): a SHA-512 in 88 digits of base 58, behind "c4". */
export function c4Of(sha512: Uint8Array): string {
  let value = sha512.reduce((all, byte) => (all << 8n) | BigInt(byte), 0n);
  let text = '';
  for (; value > 0n; value /= 58n) text = digits[Number(value % 58n)]! + text;
  return `c4${text.padStart(length, digits[0])}`;
}
