// The gnomon: a post whose shadow sets the direction of a light.

export interface Direction {
  azimuth: number;
  elevation: number;
}

/** Tip of the shadow of a post of height `post`, from its foot. */
export function shadowTip(light: Direction, post: number): [number, number] {
  const around = (light.azimuth * Math.PI) / 180;
  const up = (Math.max(light.elevation, 4) * Math.PI) / 180;
  const reach = post / Math.tan(Math.min(up, Math.PI / 2 - 1e-4));
  return [-Math.cos(around) * reach, -Math.sin(around) * reach];
}

/** The light whose shadow of the post ends there; whole tenths of degrees. */
export function lightFromTip(x: number, y: number, post: number): Direction {
  const reach = Math.hypot(x, y);
  const azimuth = (Math.atan2(-y, -x) * 180) / Math.PI;
  const elevation = (Math.atan2(post, reach) * 180) / Math.PI;
  return { azimuth: tenth(azimuth < 0 ? azimuth + 360 : azimuth), elevation: tenth(elevation) };
}

function tenth(value: number): number {
  return Math.round(value * 10) / 10;
}
