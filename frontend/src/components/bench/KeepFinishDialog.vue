<script setup lang="ts">
// Keeps a layer's look as a finish of one's own.
import KeepDialog from "./KeepDialog.vue";
import { useFinishes } from "@/stores/finishes";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const layer = defineModel<string | null>({ required: true });
const opened = useOpened();
const finishes = useFinishes();
</script>

<template>
  <KeepDialog
    v-model="layer"
    :title="text.finish.title"
    :explain="text.finish.explain"
    :name="text.finish.name"
    :keep="(of, label) => finishes.keep(opened.document, of, label)"
    :kept="text.finish.kept"
  />
</template>
