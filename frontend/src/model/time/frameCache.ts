// Frames that are kept: the ones that were used longest ago go first, within a stated memory.
export const MOST_BYTES = 400 * 2 ** 20;

export class FrameCache {
  private readonly frames = new Map<string, ImageData>();
  private bytes = 0;
  /** Numbers of frames that were ever put here: a frame of another number need not be looked for. */
  readonly numbers = new Set<number>();

  constructor(private readonly most = MOST_BYTES) {}

  has(key: string): boolean {
    return this.frames.has(key);
  }
  get(key: string): ImageData | undefined {
    const found = this.frames.get(key);
    if (found) {
      this.frames.delete(key);
      this.frames.set(key, found);
    }
    return found;
  }
  put(key: string, image: ImageData, number: number): void {
    this.numbers.add(number);
    if (this.frames.has(key)) return;
    this.frames.set(key, image);
    this.bytes += image.data.byteLength;
    for (const [oldest, gone] of this.frames) {
      if (this.bytes <= this.most || oldest === key) break;
      this.frames.delete(oldest);
      this.bytes -= gone.data.byteLength;
    }
  }
  /** Bytes that are taken now. */
  get taken(): number {
    return this.bytes;
  }
  clear(): void {
    this.frames.clear();
    this.numbers.clear();
    this.bytes = 0;
  }
}
