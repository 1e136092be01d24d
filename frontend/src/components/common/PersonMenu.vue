<script setup lang="ts">
// Who is logged in, where there is a login at all.
import { usePerson } from "@/composables/usePerson";
import { text } from "@/text";

const name = usePerson();
const token = () => /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";

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
