// The words of the interface in one place, ready for translation. Names of steps, settings and
// frames come from the engine's catalogue.
import { bench } from "./bench";
import { common } from "./common";
import { exports } from "./exports";
import { fields } from "./fields";
import { motion } from "./motion";
import { proof } from "./proof";
import { shelf } from "./shelf";

export const text = { ...common, ...shelf, ...bench, ...proof, ...fields, ...motion, ...exports } as const;
