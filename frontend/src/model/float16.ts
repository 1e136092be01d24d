// Half floats (IEEE 754 binary16) out of base64.

/** Reads the number at a place; NaN where there is none. */
export function float16(base64: string): (index: number) => number {
  const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
  const view = new DataView(bytes.buffer);
  return (index) => (index * 2 + 2 <= bytes.length ? decoded(view.getUint16(index * 2, true)) : NaN);
}

function decoded(bits: number): number {
  const sign = bits & 0x8000 ? -1 : 1;
  const exponent = (bits >> 10) & 0x1f;
  const fraction = bits & 0x3ff;
  if (exponent === 0x1f) return fraction ? NaN : sign * Infinity;
  if (exponent === 0) return sign * fraction * 2 ** -24;
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15);
}
