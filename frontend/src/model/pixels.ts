// Single pixels of a canvas.

/** The colour code at a place, or null outside or where nothing is. */
export function pixelAt(canvas: HTMLCanvasElement, x: number, y: number): string | null {
  if (x < 0 || y < 0 || x >= canvas.width || y >= canvas.height) return null;
  const pixel = canvas.getContext("2d", { willReadFrequently: true })?.getImageData(x, y, 1, 1).data;
  if (!pixel || !pixel[3]) return null;
  return "#" + [...pixel.slice(0, 3)].map((value) => value.toString(16).padStart(2, "0")).join("");
}
