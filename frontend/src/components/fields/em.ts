// What an em is while settings are typed: the size of the letters, in frame pixels.
import type { InjectionKey, Ref } from "vue";

export const emKey: InjectionKey<Ref<number>> = Symbol("em");
