<script setup lang="ts">
// The word, edited where it stands: every letter typed is set at once.
import { onMounted, ref } from "vue";
import { wordsOf, type Lettering } from "@/model/title";
import { useOpened } from "@/stores/opened";
import { text } from "@/text";

const props = defineProps<{ lettering: Lettering }>();
const emit = defineEmits<{ done: [] }>();
const opened = useOpened();
const words = ref(wordsOf(props.lettering));
const field = ref<HTMLTextAreaElement | null>(null);

onMounted(() => {
  field.value?.focus();
  field.value?.select();
});
</script>

<template>
  <textarea
    ref="field"
    v-model="words"
    class="editor"
    :aria-label="text.bench.words"
    :rows="Math.max(words.split('\n').length, 1)"
    maxlength="2000"
    @input="opened.setWords(lettering.id, words)"
    @blur="emit('done')"
    @keydown.esc.stop="emit('done')"
    @keydown.enter.exact.prevent="emit('done')"
    @keydown.stop
    @pointerdown.stop
    @dblclick.stop
  ></textarea>
</template>

<style scoped>
.editor {
  position: absolute;
  left: 50%;
  bottom: 18px;
  transform: translateX(-50%);
  width: min(70%, 520px);
  padding: 8px 12px;
  border: 2px solid var(--accent);
  border-radius: 4px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-size: 22px;
  font-weight: 650;
  text-align: center;
  resize: none;
}
</style>
