<script setup lang="ts">
// Where the viewer stands, how far it has gone around the lettering, and how its shutter blurs.
import ModelFields from "@/components/fields/ModelFields.vue";
import { useCatalogue } from "@/stores/catalogue";
import { text } from "@/text";

const catalogue = useCatalogue();
</script>

<template>
  <section :aria-label="text.stand.camera">
    <h2>{{ text.stand.camera }}</h2>
    <ModelFields :of="['camera']" :settings="catalogue.model('camera')" />
    <h3>{{ text.stand.blur }}</h3>
    <ModelFields :of="['blur']" :settings="catalogue.model('blur')" />
  </section>
</template>

<style scoped>
h3 {
  margin-top: 12px;
}
</style>
