// Tells the fields on the bench what they may know of its title.
import { computed, provide } from "vue";
import { fieldContext } from "@/components/fields/context";
import { coloursOf } from "@/model/palette";
import { sameUnit } from "@/model/same";
import { lettersOf } from "@/model/title";
import { useChosen } from "@/stores/chosen";
import { useOpened } from "@/stores/opened";
import { useCatalogue } from "@/stores/catalogue";
import { useNotices } from "@/stores/notices";
import { useProof } from "@/stores/proof";

export function useBenchFields(): void {
  const opened = useOpened();
  const chosen = useChosen();
  const catalogue = useCatalogue();
  const notices = useNotices();
  const proof = useProof();
  provide(fieldContext, {
    em: computed(() => (chosen.layer ? lettersOf(chosen.layer) : 0)),
    sameAs: (unit) => sameUnit(opened.title, unit, catalogue.entry),
    colours: () => coloursOf(opened.title),
    pickColour: proof.pickColour,
    say: (words) => notices.say({ text: words }),
  });
}
