// The stores of the bench, all in one hand.
import { useActs } from "@/stores/acts";
import { useBuilds } from "@/stores/builds";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";

export function useBench() {
  return { opened: useOpened(), chosen: useChosen(), builds: useBuilds(), acts: useActs() };
}
export type Bench = ReturnType<typeof useBench>;
