<script setup lang="ts">
// A colour code: typed, pasted, chosen among those of the title, or picked from the picture.
import { mdiEyedropper } from "@mdi/js";
import { computed, ref, watch } from "vue";
import { asCode } from "@/model/colour";
import { useRecentColours } from "@/composables/useRecentColours";
import { text } from "@/text";
import { useFieldContext } from "./context";

const props = defineProps<{ label: string; modelValue: string; help?: string; bare?: boolean }>();
const emit = defineEmits<{ "update:modelValue": [value: string]; done: [] }>();
const { colours, pickColour } = useFieldContext();
const { recent, used } = useRecentColours();

const open = ref(false);
const words = ref(props.modelValue);
watch(() => props.modelValue, (code) => (words.value = code.toUpperCase()), { immediate: true });
const ofTitle = computed(() => (open.value ? colours() : []));

function give(code: string) {
  emit("update:modelValue", code);
  used(code);
  emit("done");
}
function finish() {
  const code = asCode(words.value);
  if (code && code !== props.modelValue.toLowerCase()) give(code);
  else words.value = props.modelValue.toUpperCase();
}
function picked(event: Event) {
  const alpha = props.modelValue.length === 9 ? props.modelValue.slice(7) : "";
  emit("update:modelValue", (event.target as HTMLInputElement).value + alpha);
}
function mixed() {
  used(props.modelValue);
  emit("done");
}
function fromPicture() {
  open.value = false;
  pickColour?.(give);
}
</script>

<template>
  <div class="colour" :class="{ bare }">
    <span v-if="!bare" :title="help">{{ label }}</span>
    <v-menu v-model="open" :close-on-content-click="false">
      <template #activator="{ props: activator }">
        <button v-bind="activator" type="button" class="swatch on-chequer" :aria-label="label">
          <span :style="{ background: modelValue }"></span>
        </button>
      </template>
      <v-card class="choices">
        <label class="mix">
          <input type="color" :value="modelValue.slice(0, 7)" :aria-label="text.colours.mix" @input="picked" @change="mixed" />
          {{ text.colours.mix }}
        </label>
        <button v-if="pickColour" type="button" class="plain mix" @click="fromPicture">
          <v-icon :icon="mdiEyedropper" size="16" /> {{ text.colours.pick }}
        </button>
        <template v-for="[name, list] in [[text.colours.title, ofTitle], [text.colours.recent, recent]] as const" :key="name">
          <template v-if="list.length">
            <h3 class="quiet">{{ name }}</h3>
            <div class="codes">
              <button
                v-for="code in list"
                :key="code"
                type="button"
                class="code on-chequer"
                :aria-label="code"
                :title="code.toUpperCase()"
                @click="give(code)"
              >
                <span :style="{ background: code }"></span>
              </button>
            </div>
          </template>
        </template>
      </v-card>
    </v-menu>
    <input
      v-model="words"
      class="mono typed"
      :aria-label="`${label}, code`"
      spellcheck="false"
      @focus="($event.target as HTMLInputElement).select()"
      @blur="finish"
      @keydown.enter="finish"
    />
  </div>
</template>

<style scoped>
.colour {
  display: grid;
  grid-template-columns: 96px 1fr 92px;
  align-items: center;
  gap: 8px;
  min-height: 30px;
}
.colour.bare {
  grid-template-columns: 44px 92px;
}
.swatch,
.code {
  width: 100%;
  height: 22px;
  padding: 0;
  border: 1px solid var(--line);
  border-radius: 3px;
  overflow: hidden;
  cursor: pointer;
}
.swatch span,
.code span {
  display: block;
  width: 100%;
  height: 100%;
}
.typed {
  width: 100%;
  border: 1px solid var(--line);
  border-radius: 3px;
  background: var(--raised);
  color: inherit;
  padding: 2px 6px;
}
.choices {
  width: 214px;
  padding: 8px 10px 10px;
}
.mix {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 0;
  cursor: pointer;
}
.mix input {
  width: 28px;
  height: 20px;
  padding: 0;
  border: 0;
  background: none;
}
h3 {
  font-weight: 500;
  padding: 6px 0 2px;
}
.codes {
  display: grid;
  grid-template-columns: repeat(8, 1fr);
  gap: 3px;
}
.code {
  height: 20px;
}
</style>
