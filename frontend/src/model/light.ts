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

export interface Rig {
  turn: number;
  raised: number;
}

/** A direction after the rig was turned about the viewer's axis and raised about the level one. */
export function rigged(light: Direction, rig: Rig): Direction {
  const [x, y, z] = directionVector(light);
  const [x1, y1] = rotated(x, y, rig.turn);
  const [y2, z2] = rotated(y1, z, rig.raised);
  return direction(x1, y2, z2);
}

/** The direction that a light must have for the rig to turn it into this one. */
export function unrigged(light: Direction, rig: Rig): Direction {
  const [x, y, z] = directionVector(light);
  const [y1, z1] = rotated(y, z, -rig.raised);
  const [x2, y2] = rotated(x, y1, -rig.turn);
  return direction(x2, y2, z1);
}

/** Unit vector towards a light: x right, y down, z to the viewer. */
export function directionVector({ azimuth, elevation }: Direction): [number, number, number] {
  const around = (azimuth * Math.PI) / 180;
  const up = (elevation * Math.PI) / 180;
  return [Math.cos(around) * Math.cos(up), Math.sin(around) * Math.cos(up), Math.sin(up)];
}

/** The direction of a vector of any length. */
export function vectorDirection([x, y, z]: [number, number, number]): Direction {
  const long = Math.hypot(x, y, z) || 1;
  return direction(x / long, y / long, z / long);
}

function direction(x: number, y: number, z: number): Direction {
  const azimuth = (Math.atan2(y, x) * 180) / Math.PI;
  const elevation = (Math.asin(Math.min(Math.max(z, -1), 1)) * 180) / Math.PI;
  return { azimuth: tenth(azimuth < 0 ? azimuth + 360 : azimuth), elevation: tenth(elevation) };
}

function rotated(a: number, b: number, degrees: number): [number, number] {
  const turn = (degrees * Math.PI) / 180;
  return [a * Math.cos(turn) - b * Math.sin(turn), a * Math.sin(turn) + b * Math.cos(turn)];
}

function tenth(value: number): number {
  return Math.round(value * 10) / 10;
}
