// Words of the fields.
const PARTS: Record<string, string> = { front: "face", facet: "facet", side: "side", outline: "outline", back: "back", shadow: "shadow" };
const WAYS = ["right", "down and right", "down", "down and left", "left", "up and left", "up", "up and right"];
const partName = (kind: string): string => PARTS[kind] ?? kind;
/** Where a part faces, in words. */
function way(facing: number | null | undefined): string {
  return facing == null ? "" : `, facing ${WAYS[Math.round((((facing % 360) + 360) % 360) / 45) % 8]}`;
}

export const fields = {
  spots: {
    colour: (number: number) => `Spot ${number}`,
    place: (number: number) => `Spot ${number}, %`,
    remove: (number: number) => `Remove spot ${number}`,
    add: "Add a spot",
  },
  stops: {
    stop: (n: number, all: number) => `Stop ${n} of ${all}`,
    place: "Place",
    midpoint: "Midpoint",
    pointer: "pointer is here",
    remove: "Remove stop",
    help: "Click the bar to add a stop; drag a peg to move it.",
    midpointOf: (n: number) => `Midpoint after stop ${n}`,
    copy: "Copy as CSS",
    copied: "The stops are on the clipboard as a CSS gradient.",
    paste: "Paste CSS",
    pasteHere: "linear-gradient(#123, #fed 40%, …)",
    notCss: "That is no CSS gradient: at least two colours are needed.",
    reverse: "Reverse",
    spread: "Spread evenly",
  },
  curve: {
    help: "Click to add a point, drag to move it, double-click to remove it.",
    presets: "Presets",
    draw: "Draw",
    drawHere: "Draw over the board",
    type: "Type points",
    typeHere: "Pairs of input and output: 0 0, 0.5 0.8, 1 1",
    wrong: "Pairs of numbers are needed, from 0 to 1 or from 0 to 255, no two inputs alike.",
    changed: "Changed",
    names: {
      straight: "Straight", rounded: "Rounded", hollow: "Hollow", stepped: "Stepped", contrast: "Contrast",
      inverted: "Inverted", twoPeaks: "Two peaks", threePeaks: "Three peaks",
    },
  },
  colours: { mix: "Mix a colour", pick: "Pick from the picture", title: "In this title", recent: "Used last" },
  same: {
    open: (label: string) => `${label}: same as`,
    title: "Same as another setting",
    standard: "Default",
    none: "No other setting has this unit.",
  },
  shapes: {
    title: "Shapes",
    add: "Add a shape",
    remove: (form: string) => `Remove the ${form}`,
    up: (form: string) => `Move the ${form} up the list`,
    down: (form: string) => `Move the ${form} down the list`,
    combine: { join: "joined", cut: "cut out", overlap: "overlapped" },
    around: "Around",
    size: "Its own size",
    pen: "Draw in the proof",
    penHelp: "Press for a corner, drag for a curve. Escape ends.",
    again: "Draw it anew",
    move: "Middle of the shape",
    side: "Width and turn of the shape",
    foot: "Height of the shape",
    node: (n: number) => `Place ${n} of the path`,
    before: (n: number) => `Handle before place ${n}`,
    after: (n: number) => `Handle after place ${n}`,
    addNode: (n: number) => `Add a place after place ${n}`,
    along: "Along a line",
    alongHelp: "Sets the words along a circle, a drawn line or the edge of shapes.",
    alongLayer: "Shapes",
    names: {
      rectangle: "Rectangle", ellipse: "Ellipse", polygon: "Polygon", star: "Star", gear: "Gear", ring: "Ring", swirl: "Swirl",
      drop: "Drop", splash: "Splash", ribbon: "Ribbon", arrow: "Arrow", frame: "Frame", path: "Drawn path",
    },
  },
  cells: {
    title: "By hand",
    tools: "Tools",
    names: {
      paint: "Paint cells in the proof",
      rectangle: "Paint a rectangle of cells",
      fill: "Fill cells that hang together",
      erase: "Erase cells",
      pick: "Take the ink of a cell",
    },
    fineness: "Brush",
    finenessHelp: "Whole cells, or parts of them.",
    parts: { 1: "Whole", 2: "Halves", 4: "Quarters", 8: "Eighths" },
    across: "Paint the other half of the letter too, left and right",
    down: "Paint the other half of the letter too, above and below",
    inks: "Inks",
    ink: (n: number, code: string) => `Ink ${n}, ${code}`,
    addInk: "Add an ink",
    addColour: (code: string) => `Add ${code.toUpperCase()} as an ink`,
    fromTitle: "In this title",
    colour: "Colour",
    height: "Stands up",
    heightHelp: "How far cells of this ink rise from the face; below 0 they are dents.",
    removeInk: "Remove this ink and its cells",
    clear: (count: number) => `Take away ${count === 1 ? "the painted cell" : `all ${count.toLocaleString("en")} painted cells`}`,
    size: (across: number, down: number, faces: number, sides: number) =>
      `Cells of ${across.toFixed(1)} × ${down.toFixed(1)} px, ${faces === 1 ? "one grid" : `on ${faces} letters`}${sides ? ` and ${sides} ${sides === 1 ? "side" : "sides"}` : ""}.`,
    board: "Cells. Arrows move from cell to cell, Space paints, Shift with arrows paints a stroke, Escape leaves.",
    at: ({ letter, side }: { letter: string; side: { facing: number; letter: string } | null }, column: number, row: number, colour: string) =>
      `${letter || side?.letter ? `${letter || side?.letter}, ` : ""}${side ? `side${way(side.facing)}, ` : ""}column ${column}, row ${row}${colour ? `, ${colour}` : ", empty"}`,
  },
  parts: {
    title: "By hand",
    looking: "Breaking the letters apart…",
    found: (count: number, painted: number) =>
      `${count.toLocaleString("en")} ${count === 1 ? "part" : "parts"}${painted ? `, ${painted.toLocaleString("en")} ${painted === 1 ? "paint" : "paints"}` : ""}.`,
    none: "Click a part in the proof; with Shift, several.",
    spread: "Spread",
    spreadHelp: "Moves the parts apart in the proof, to look at them; the picture stays as it is.",
    paint: "Paint",
    asItIs: "As it is",
    fills: { colour: "Colour", gradient: "Gradient", pattern: "Pattern", picture: "Picture" } as Record<string, string>,
    scope: "Holds for",
    scopeHelp: "What else the paint falls on, in other words too.",
    scopes: {
      part: "This part", letter: "All of this letter that face its way", alike: "All that face its way", kind: "All of its kind",
    },
    ofLetter: "Pick its letter",
    thatWay: "Pick what faces its way",
    ofKind: "Pick all of its kind",
    clear: (count: number) => (count === 1 ? "Take the paint away" : `Take all ${count.toLocaleString("en")} paints away`),
    lost: (paints: readonly { kind?: string; letter?: string; facing?: number | null }[]) => {
      const named = paints.slice(0, 4).map((each) => `${partName(each.kind ?? "front")}${each.letter ? ` of ${each.letter}` : ""}${way(each.facing)}`);
      const more = paints.length > 4 ? ` and ${paints.length - 4} more` : "";
      return `${paints.length === 1 ? "One paint finds" : `${paints.length} paints find`} no part in these words: ${named.join(", ")}${more}.`;
    },
    dropLost: "Take them away",
    board: "Parts. Arrows move from part to part, Page Up and Page Down through all, with Shift several are picked; Enter paints as last, Delete takes the paint away, Escape picks none.",
    at: (part: { kind: string; letter: string; number: number; facing: number | null }, count: number) =>
      count > 1 ? `${count} parts` : `${part.letter ? `${part.letter}, ` : ""}${partName(part.kind)} ${part.number}${way(part.facing)}`,
  },
  where: {
    title: "Where",
    help: "Limits the step to a part of the picture.",
    kinds: {
      everywhere: "Everywhere", outline: "Inside the outline", half: "On one side of a line", ellipse: "In an ellipse", rectangle: "In a rectangle", polygon: "In a polygon",
      tones: "In some tones", matte: "Under another layer",
    },
    settings: { width: "Width", height: "Height", turn: "Turn", feather: "Feather", low: "From", high: "To", soft: "Soft" },
    inverted: "Everywhere else instead",
    move: "Move where the step counts",
    towards: "Direction in which the step counts",
    side: "Width and turn of where the step counts",
    foot: "Height of where the step counts",
    corner: (n: number) => `Corner ${n} of where the step counts`,
    addCorner: "Add a corner",
  },
} as const;
