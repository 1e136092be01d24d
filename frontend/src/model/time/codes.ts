// Colour codes channel by channel, as the engine mixes them over time.

/** Red, green, blue and alpha, 0 to 255. */
export function channelsOf(code: string): number[] {
  let digits = code.slice(1);
  if (digits.length === 3) digits = [...digits].map((digit) => digit + digit).join("");
  digits = digits.padEnd(8, "f");
  return [0, 2, 4, 6].map((at) => parseInt(digits.slice(at, at + 2), 16));
}

export function codeOf(parts: readonly number[]): string {
  const digits = parts.map((part) => byte(part).toString(16).padStart(2, "0")).join("");
  return `#${digits.endsWith("ff") ? digits.slice(0, 6) : digits}`;
}
/** Halves go to the even number, as in Python. */
function byte(part: number): number {
  const low = Math.floor(part);
  const near = part - low === 0.5 ? low + (low % 2) : Math.round(part);
  return Math.min(Math.max(near, 0), 255);
}

export function mixedCodes(a: string, b: string, share: number): string {
  const [from, to] = [channelsOf(a), channelsOf(b)];
  return codeOf(from.map((part, i) => part + (to[i]! - part) * share));
}
