<script setup lang="ts">
// Who is logged in, where there is a login at all.
import { onMounted, ref } from "vue";
import { api } from "@/api/client";
import { text } from "@/text";

const name = ref<string | null>(null);
const token = () => /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";

onMounted(async () => {
  const answer = await api.GET("/api/person").catch(() => null); // without a connection others say so
  name.value = answer?.data?.name ?? null;
});
</script>

<template>
  <form v-if="name" method="post" action="/logout" class="quiet">
    <input type="hidden" name="csrfmiddlewaretoken" :value="token()" />
    {{ name }}
    <v-btn type="submit" size="small">{{ text.act.logOut }}</v-btn>
  </form>
</template>

<style scoped>
form {
  display: flex;
  align-items: center;
  gap: 10px;
}
</style>
