// The selected layer's own pixels on the proof, and back.
import { computed } from "vue";
import { cardOf, type Point } from "@/model/card";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useProof } from "@/stores/proof";

export function useCard() {
  const opened = useOpened();
  const chosen = useChosen();
  const proof = useProof();
  // A layer without a card fills the frame from its centre.
  const card = computed(() => {
    const layer = chosen.layer;
    if (layer && "placement" in layer) return cardOf(layer, opened.title);
    const { width, height } = opened.title.frame;
    return {
      toFrame: ({ x, y }: Point) => ({ x: x + width / 2, y: y + height / 2 }),
      fromFrame: ({ x, y }: Point) => ({ x: x - width / 2, y: y - height / 2 }),
    };
  });
  function toPane(point: Point): Point {
    const { x, y } = card.value.toFrame(point);
    return proof.toPane(x, y);
  }
  function fromPane({ x, y }: Point): Point | null {
    return card.value.fromFrame(proof.toFrame(x, y));
  }
  return { toPane, fromPane };
}
