// The words of the interface in one place, ready for translation. Names of steps and settings
// come from the engine's catalogue, those of frames stand in model/frames.ts.
import { bench } from "./bench";
import { common } from "./common";
import { fields } from "./fields";
import { proof } from "./proof";
import { shelf } from "./shelf";

export const text = { ...common, ...shelf, ...bench, ...proof, ...fields } as const;
