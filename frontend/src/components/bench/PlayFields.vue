<script setup lang="ts">
// How a clip runs: from where, how fast, what comes after its end. Nothing for a still picture.
import { computed } from "vue";
import ModelFields from "@/components/fields/ModelFields.vue";
import type { Place } from "@/model/places";
import { isClip, isNumbered } from "@/model/title";
import { useCatalogue } from "@/stores/catalogue";

const props = defineProps<{ of: Place; name: string }>();
const catalogue = useCatalogue();
/** Only numbered pictures have no rate of their own. */
const settings = computed(() => catalogue.model("play").filter((each) => each.name !== "rate" || isNumbered(props.name)));
</script>

<template>
  <ModelFields v-if="isClip(name)" :of="of" :settings="settings" />
</template>
