<script setup lang="ts">
import { useTheme } from "vuetify";
import { watchEffect } from "vue";
import Notices from "@/components/common/Notices.vue";
import UploadList from "@/components/common/UploadList.vue";
import { useLamp } from "@/composables/useLamp";

const lamp = useLamp();
const theme = useTheme();
watchEffect(() => void theme.change(lamp.value));
</script>

<template>
  <v-app>
    <router-view />
    <UploadList />
    <Notices />
  </v-app>
</template>
