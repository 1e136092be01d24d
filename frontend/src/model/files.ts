// Giving files to the one who works here.

/** Saves what lies at an address, or in a blob, under a name. */
export function give(what: string | Blob, name: string): void {
  const link = document.createElement("a");
  link.href = typeof what === "string" ? what : URL.createObjectURL(what);
  link.download = name;
  link.click();
  if (typeof what !== "string") setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
