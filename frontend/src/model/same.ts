// Settings elsewhere in the title whose value could be taken over.
import { counts, numberOf, settingOf, type StepEntry, type Title } from "./title";

export interface Same {
  key: string;
  layer: string;
  step: string;
  label: string;
  value: number;
}

export function sameUnit(title: Title, unit: string, entryOf: (step: string) => StepEntry | undefined): Same[] {
  return title.layers.flatMap((layer) =>
    layer.build.flatMap((step) => {
      const entry = entryOf(step.step);
      const fitting = entry?.settings.filter(
        (each) => each.unit === unit && typeof each.default === "number" && counts(step, entry, each),
      );
      return (fitting ?? []).map((setting) => ({
        key: `${step.id}.${setting.name}`,
        layer: layer.name,
        step: entry!.label,
        label: setting.label,
        value: numberOf(settingOf(step, setting)),
      }));
    }),
  );
}
