<script setup lang="ts">
// The keys, in one sheet.
import { SHORTCUTS } from "@/model/shortcuts";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
</script>

<template>
  <v-dialog v-model="open" :aria-label="text.shortcuts.title" max-width="760">
    <v-card :title="text.shortcuts.title">
      <v-card-text class="groups">
        <section v-for="{ group, list } in SHORTCUTS" :key="group">
          <h3>{{ text.shortcuts.groups[group] }}</h3>
          <dl>
            <template v-for="each in list" :key="each.act">
              <dt><kbd>{{ each.shown }}</kbd></dt>
              <dd>{{ text.shortcuts.acts[each.act] }}</dd>
            </template>
            <template v-for="[keys, said] in text.shortcuts.more[group]" :key="keys">
              <dt><kbd>{{ keys }}</kbd></dt>
              <dd>{{ said }}</dd>
            </template>
          </dl>
        </section>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="open = false">{{ text.act.close }}</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.groups {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 20px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 5px 10px;
  margin: 6px 0 0;
  align-items: baseline;
}
dd {
  margin: 0;
}
kbd {
  display: inline-block;
  padding: 0 6px;
  border: 1px solid var(--line);
  border-bottom-width: 2px;
  border-radius: 4px;
  background: var(--panel);
  font-family: var(--mono);
  font-size: 11px;
  white-space: nowrap;
}
</style>
