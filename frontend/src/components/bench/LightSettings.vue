<script setup lang="ts">
// The selected light: direction or place, strength, colour; and the rig turned as one.
import ModelFields from "@/components/fields/ModelFields.vue";
import { numberOf, withLight, type Light } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ light: Light }>();
const opened = useOpened();
const catalogue = useCatalogue();

function set(changes: object, name: string) {
  opened.change(withLight(opened.title, props.light.id, changes), `${props.light.id}.${name}`);
}
function rename(event: Event) {
  const name = (event.target as HTMLInputElement).value.trim().slice(0, 200);
  if (name) set({ name }, "name");
  opened.endGesture();
}
</script>

<template>
  <section :aria-label="text.bench.light">
    <input class="name" :value="light.name" :aria-label="text.act.rename" maxlength="200" @change="rename" />
    <p class="quiet">{{ text.light.kinds[light.kind] }}</p>
    <ModelFields :of="['lights', light.id]" :settings="catalogue.model(`light.${light.kind}`)" />
    <p v-if="numberOf(light.kind === 'distant' ? light.elevation : light.z) <= 0" class="behind" role="status">
      {{ text.bench.behind }}
    </p>
    <h3>{{ text.light.rig }}</h3>
    <ModelFields :of="['rig']" :settings="catalogue.model('rig')" />
  </section>
</template>

<style scoped>
.name {
  width: 100%;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: inherit;
  font: inherit;
  font-size: 15px;
  font-weight: 650;
  padding: 0 2px;
}
.name:hover,
.name:focus {
  border-color: var(--line);
  background: var(--raised);
}
h3 {
  margin-top: 12px;
}
p {
  margin-bottom: 6px;
}
.behind {
  color: var(--accent);
}
</style>
