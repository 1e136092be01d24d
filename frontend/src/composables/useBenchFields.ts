// Tells the fields on the bench what they may know of its title.
import { computed, provide } from "vue";
import { fieldContext } from "@/components/fields/context";
import { coloursOf } from "@/model/palette";
import { sameUnit } from "@/model/same";
import { sizeOf, USUAL_SIZE } from "@/model/title";
import { useBench } from "@/stores/bench";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { useProof } from "@/stores/proof";

export function useBenchFields(): void {
  const bench = useBench();
  const catalogue = useCatalogue();
  const notices = useNotices();
  const proof = useProof();
  provide(fieldContext, {
    em: computed(() => (bench.layer ? sizeOf(bench.layer) * USUAL_SIZE : 0)),
    sameAs: (unit) => sameUnit(bench.title, unit, catalogue.entry),
    colours: () => coloursOf(bench.title),
    pickColour: proof.pickColour,
    say: (words) => notices.say({ text: words }),
  });
}
