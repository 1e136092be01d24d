// Common sizes of frames.
export interface FrameSize {
  label: string;
  width: number;
  height: number;
}

export const FRAMES: { group: string; sizes: FrameSize[] }[] = [
  {
    group: "Video",
    sizes: [
      { label: "HD", width: 1280, height: 720 },
      { label: "Full HD", width: 1920, height: 1080 },
      { label: "Cinema 2K", width: 2048, height: 1080 },
      { label: "Ultra HD", width: 3840, height: 2160 },
    ],
  },
  {
    group: "Social",
    sizes: [
      { label: "Upright", width: 1080, height: 1920 },
      { label: "Portrait", width: 1080, height: 1350 },
      { label: "Square", width: 1080, height: 1080 },
      { label: "Link picture", width: 1200, height: 630 },
    ],
  },
  {
    group: "Print, 300 dpi",
    sizes: [
      { label: "A5 landscape", width: 2480, height: 1748 },
      { label: "A4", width: 2480, height: 3508 },
      { label: "A4 landscape", width: 3508, height: 2480 },
    ],
  },
];

export const LARGEST_SIDE = 16384;
export const LARGEST_AREA = 40_000_000;

export function frameFault(width: number, height: number): boolean {
  return !(
    Number.isInteger(width) && Number.isInteger(height) && width >= 1 && height >= 1 &&
    width <= LARGEST_SIDE && height <= LARGEST_SIDE && width * height <= LARGEST_AREA
  );
}
