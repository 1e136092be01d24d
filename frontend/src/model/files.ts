// Giving files to the one who works here.

/** Saves what lies at an address, or in a blob, under a name. */
export function give(what: string | Blob, name: string): void {
  const link = document.createElement("a");
  link.href = typeof what === "string" ? what : URL.createObjectURL(what);
  link.download = name;
  link.click();
  if (typeof what !== "string") setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

/** How long a clip is: 4.0 s, 1:05, 1:00:00. */
export function lengthTold(seconds: number): string {
  if (seconds < 60) return `${seconds.toFixed(1)} s`;
  const whole = Math.round(seconds);
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (count: number) => String(count).padStart(2, "0");
  return hours ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`;
}
