// What the fields may know of the title around them. Without it they work alone.
import { inject, ref, type InjectionKey, type Ref } from "vue";
import type { Same } from "@/model/same";

export interface FieldContext {
  /** The size of the letters in frame pixels; 0 where there are none. */
  em: Ref<number>;
  /** Other settings with this unit, whose value could be taken over. */
  sameAs: (unit: string) => Same[];
  /** The colours of the title. */
  colours: () => string[];
  /** The next click on the picture gives its colour; null where there is no picture. */
  pickColour: ((give: (code: string) => void) => void) | null;
  say: (words: string) => void;
}

const ALONE: FieldContext = {
  em: ref(0), sameAs: () => [], colours: () => [], pickColour: null, say: () => undefined,
};

export const fieldContext: InjectionKey<FieldContext> = Symbol("fields");

export function useFieldContext(): FieldContext {
  return inject(fieldContext, ALONE);
}
