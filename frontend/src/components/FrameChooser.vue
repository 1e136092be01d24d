<script setup lang="ts">
// The frame's size: from common ones, or typed.
import { computed, ref, watch } from "vue";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const props = defineProps<{ width: number; height: number }>();
const emit = defineEmits<{ choose: [width: number, height: number] }>();

const open = ref(false);
const typed = ref({ width: props.width, height: props.height });
watch(open, () => (typed.value = { width: props.width, height: props.height }));
const catalogue = useCatalogue();
const limits = computed(() => catalogue.all?.frames);
const groups = computed(() => {
  const usual = limits.value?.usual ?? [];
  return [...new Set(usual.map((each) => each.sort))].map((sort) => ({
    sort, sizes: usual.filter((each) => each.sort === sort),
  }));
});
const wrong = computed(() => {
  const [width, height] = [Number(typed.value.width), Number(typed.value.height)];
  const { largest_side: side = Infinity, largest_area: area = Infinity } = limits.value ?? {};
  const whole = Number.isInteger(width) && Number.isInteger(height) && width >= 1 && height >= 1;
  return !(whole && width <= side && height <= side && width * height <= area);
});

function choose(width: number, height: number) {
  emit("choose", width, height);
  open.value = false;
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props: activator }">
      <button v-bind="activator" class="plain asked" type="button" :aria-label="`${text.frame.title}: ${width} × ${height}`">
        {{ width }} × {{ height }}
      </button>
    </template>
    <v-card class="list" :aria-label="text.frame.title">
      <template v-for="group in groups" :key="group.sort">
        <h3 class="quiet">{{ group.sort }}</h3>
        <button
          v-for="size in group.sizes"
          :key="size.label"
          class="plain size"
          type="button"
          @click="choose(size.width, size.height)"
        >
          <span>{{ size.label }}</span>
          <span class="mono quiet">{{ size.width }} × {{ size.height }}</span>
        </button>
      </template>
      <h3 class="quiet">{{ text.frame.custom }}</h3>
      <form class="typed" @submit.prevent="wrong || choose(Number(typed.width), Number(typed.height))">
        <v-text-field v-model="typed.width" :aria-label="text.frame.width" inputmode="numeric" />
        ×
        <v-text-field v-model="typed.height" :aria-label="text.frame.height" inputmode="numeric" />
        <v-btn type="submit" :disabled="wrong">{{ text.frame.use }}</v-btn>
      </form>
      <p v-if="wrong" class="wrong" role="alert">{{ text.frame.limit }}</p>
    </v-card>
  </v-menu>
</template>

<style scoped>
.asked {
  border-bottom: 1px dotted currentcolor;
}
.list {
  width: 280px;
  padding: 8px 12px 12px;
}
h3 {
  font-weight: 500;
  padding-top: 6px;
}
.size {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding: 3px 4px;
  border-radius: 3px;
}
.size:hover {
  background: color-mix(in srgb, var(--ink) 8%, transparent);
}
.typed {
  display: flex;
  align-items: center;
  gap: 6px;
}
.wrong {
  color: #a3271b;
}
</style>
