// Every shortcut of the bench: what the sheet shows and what the keys do come from this list.
export type Act =
  | "undo" | "redo" | "toggle" | "solo" | "without" | "add" | "duplicate" | "words" | "finishes" | "marks"
  | "setMark" | "export" | "split" | "loupe" | "guides" | "fit" | "oneToOne" | "zoomIn" | "zoomOut" | "nextTap"
  | "previousTap" | "layerAbove" | "layerBelow" | "sheet" | TimeAct;
export type TimeAct =
  | "play" | "timing" | "arrivals" | "frameBack" | "frameOn" | "tenBack" | "tenOn" | "toStart" | "toEnd"
  | "pegBefore" | "pegAfter";

export interface Shortcut {
  act: Act;
  /** As `KeyboardEvent.key` in lower case, with ctrl+ and shift+ before it. */
  keys: string[];
  shown: string;
}

export const SHORTCUTS: { group: "title" | "steps" | "proof" | "time"; list: Shortcut[] }[] = [
  {
    group: "title",
    list: [
      { act: "undo", keys: ["ctrl+z"], shown: "Ctrl Z" },
      { act: "redo", keys: ["ctrl+shift+z", "ctrl+y"], shown: "Ctrl Shift Z" },
      { act: "words", keys: ["t"], shown: "T" },
      { act: "finishes", keys: ["f"], shown: "F" },
      { act: "setMark", keys: ["m"], shown: "M" },
      { act: "marks", keys: ["shift+m"], shown: "Shift M" },
      { act: "export", keys: ["e"], shown: "E" },
      { act: "layerAbove", keys: ["pageup"], shown: "Page up" },
      { act: "layerBelow", keys: ["pagedown"], shown: "Page down" },
      { act: "sheet", keys: ["?", "shift+?"], shown: "?" },
    ],
  },
  {
    group: "steps",
    list: [
      { act: "add", keys: ["a"], shown: "A" },
      { act: "toggle", keys: ["o"], shown: "O" },
      { act: "without", keys: ["w"], shown: "W" },
      { act: "solo", keys: ["x"], shown: "X" },
      { act: "duplicate", keys: ["ctrl+d"], shown: "Ctrl D" },
    ],
  },
  {
    group: "proof",
    list: [
      { act: "nextTap", keys: ["]"], shown: "]" },
      { act: "previousTap", keys: ["["], shown: "[" },
      { act: "split", keys: ["s"], shown: "S" },
      { act: "loupe", keys: ["l"], shown: "L" },
      { act: "guides", keys: ["g"], shown: "G" },
      { act: "fit", keys: ["0"], shown: "0" },
      { act: "oneToOne", keys: ["1"], shown: "1" },
      { act: "zoomIn", keys: ["+", "="], shown: "+" },
      { act: "zoomOut", keys: ["-"], shown: "−" },
    ],
  },
  {
    group: "time",
    list: [
      { act: "play", keys: [" "], shown: "Space" },
      { act: "timing", keys: ["y"], shown: "Y" },
      { act: "arrivals", keys: ["r"], shown: "R" },
      { act: "frameBack", keys: [","], shown: "," },
      { act: "frameOn", keys: ["."], shown: "." },
      { act: "tenBack", keys: ["<", "shift+,"], shown: "Shift ," },
      { act: "tenOn", keys: [">", "shift+."], shown: "Shift ." },
      { act: "toStart", keys: ["home"], shown: "Home" },
      { act: "toEnd", keys: ["end"], shown: "End" },
      { act: "pegBefore", keys: ["b"], shown: "B" },
      { act: "pegAfter", keys: ["n"], shown: "N" },
    ],
  },
];

const BY_KEYS = new Map(
  SHORTCUTS.flatMap(({ list }) => list.flatMap(({ act, keys }) => keys.map((each) => [each, act] as const))),
);

/** What a key press means, if anything. */
export function actOf(event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "shiftKey" | "altKey">): Act | undefined {
  if (event.altKey) return undefined;
  const key = event.key.toLowerCase();
  const ctrl = event.ctrlKey || event.metaKey ? "ctrl+" : "";
  // A sign that needs Shift on some keyboards is itself, however it was typed.
  return BY_KEYS.get(`${ctrl}${event.shiftKey ? "shift+" : ""}${key}`) ?? (/[a-z]/.test(key) ? undefined : BY_KEYS.get(ctrl + key));
}

/** For tooltips: "Undo (Ctrl Z)". */
export function withKey(label: string, act: Act): string {
  const found = SHORTCUTS.flatMap(({ list }) => list).find((each) => each.act === act);
  return found ? `${label} (${found.shown})` : label;
}
