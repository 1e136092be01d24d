// Values as they are shown beside lanes and pegs.
import type { Setting } from "@/model/title";
import { isNumeric } from "./mixing";

export function shownValue(value: unknown, setting: Pick<Setting, "kind" | "unit">): string {
  if (typeof value === "number" && isNumeric(setting.kind)) {
    const share = setting.unit === "%" ? value * 100 : value;
    const places = Math.abs(share) < 10 ? 100 : Math.abs(share) < 100 ? 10 : 1;
    return `${Math.round(share * places) / places}${setting.unit === "%" || setting.unit === "px" ? " " : ""}${setting.unit}`;
  }
  if (typeof value === "string") return value.startsWith("#") ? value.toUpperCase() : value;
  if (typeof value === "boolean") return value ? "on" : "off";
  if (setting.kind === "point" && Array.isArray(value)) return value.map((axis) => Math.round(Number(axis))).join(", ");
  return Array.isArray(value) ? String(value.length) : "";
}
