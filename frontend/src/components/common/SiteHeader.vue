<script setup lang="ts">
// The head of every view but the bench.
import LampSwitch from "./LampSwitch.vue";
import PersonMenu from "./PersonMenu.vue";
import { text } from "@/text";

const VIEWS = [
  ["shelf", text.views.shelf],
  ["words", text.views.words],
  ["library", text.views.library],
] as const;
</script>

<template>
  <header>
    <router-link class="wordmark" to="/">mabrel</router-link>
    <nav :aria-label="text.views.label">
      <router-link v-for="[name, label] in VIEWS" :key="name" :to="{ name }">{{ label }}</router-link>
    </nav>
    <span class="space"></span>
    <slot />
    <LampSwitch />
    <PersonMenu />
  </header>
</template>

<style scoped>
header {
  display: flex;
  align-items: center;
  gap: 22px;
  height: 46px;
  padding: 0 24px;
  border-bottom: 1px solid var(--line);
}
nav {
  display: flex;
  gap: 22px;
}
nav a {
  color: var(--quiet);
  text-decoration: none;
}
nav a:hover {
  color: var(--ink);
}
nav a.router-link-exact-active {
  color: var(--ink);
  font-weight: 650;
}
.space {
  flex: 1;
}
</style>
