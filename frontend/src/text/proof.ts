// Words of the proof and its handles.
export const proof = {
  proof: {
    second: "Second proof",
    secondTap: "Second tap",
    over: "Over a picture of your own",
    overNothing: "Nothing",
    guides: "Guides",
    guide: { safe: "Safe areas", centre: "Centre lines", thirds: "Thirds" },
    loupe: "Loupe",
    code: "colour",
    split: "Split",
    wipe: "Wipe between the two states",
    now: "Now",
    endCompare: "End the comparison",
    pick: "Click a place in the picture to take its colour. Escape ends it.",
  },
  handles: {
    arm: "Direction and length",
    armBack: "Direction and length, other end",
    move: (name: string) => `Move ${name}`,
    scale: (name: string) => `Scale ${name}`,
    turn: (name: string) => `Turn ${name}`,
    light: (name: string) => `Place of ${name}`,
    aim: (name: string) => `Aim of ${name}`,
  },
} as const;
