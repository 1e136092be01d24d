// Colours that were used last, remembered in this browser.
import { useLocalStorage } from "@vueuse/core";

const MOST = 16;

export function useRecentColours() {
  const recent = useLocalStorage<string[]>("mabrel.colours", []);
  function used(code: string): void {
    const plain = code.toLowerCase();
    recent.value = [plain, ...recent.value.filter((each) => each !== plain)].slice(0, MOST);
  }
  return { recent, used };
}
