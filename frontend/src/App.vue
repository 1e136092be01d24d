<script setup lang="ts">
import { useLocalStorage } from "@vueuse/core";
import { useTheme } from "vuetify";
import { watchEffect } from "vue";
import Notices from "@/components/common/Notices.vue";

const lamp = useLocalStorage<"day" | "lampOff">("mabrel.lamp", "day");
const theme = useTheme();
watchEffect(() => theme.change(lamp.value));
</script>

<template>
  <v-app>
    <router-view />
    <Notices />
  </v-app>
</template>
