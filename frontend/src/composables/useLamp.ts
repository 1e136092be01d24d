// Light or dark, remembered in this browser.
import { useLocalStorage } from "@vueuse/core";

export function useLamp() {
  return useLocalStorage<"day" | "lampOff">("mabrel.lamp", "day");
}
