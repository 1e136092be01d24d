<script setup lang="ts">
// Export: the picture of now as PNG, or the whole title as a clip or as numbered pictures.
import { computed, ref, watch } from "vue";
import ChoiceField from "@/components/fields/ChoiceField.vue";
import SwitchField from "@/components/fields/SwitchField.vue";
import { CLIPS, useMaking } from "@/composables/useMaking";
import { useCatalogue } from "@/stores/catalogue";
import { useClock } from "@/stores/clock";
import { useExports } from "@/stores/exports";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const open = defineModel<boolean>({ required: true });
const opened = useOpened();
const catalogue = useCatalogue();
const clock = useClock();
const exports = useExports();
const motion = useMotion();
const timeline = useTimeline();
const FORMS = (["picture", "webm", "frames"] as const).map((value) => ({ value, title: text.export.forms[value] }));
const form = ref<string>("picture");
const bits = ref("8");
const scale = ref("1");
const backdrop = ref(false);
const working = ref(false);
const fault = ref("");
const clip = useMaking(CLIPS, () => (open.value = false));
watch(open, (now) => now && (form.value = motion.lanes.length && timeline.tab === "timing" ? "webm" : "picture"));

const hasBackdrop = computed(() => opened.title.layers.some((layer) => ["backdrop", "floor"].includes(layer.kind)));
const size = computed(() => {
  const { width, height } = opened.title.frame;
  return [Math.round(width * Number(scale.value)), Math.round(height * Number(scale.value))] as const;
});
const tooLarge = computed(() => size.value[0] * size.value[1] > (catalogue.all?.frames.largest_area ?? Infinity));
const frames = computed(() => Math.max(Math.round((timeline.loop[1] - timeline.loop[0]) * opened.document.frame.fps), 1));
const said = computed(() => fault.value || clip.fault.value);

async function run() {
  const common = {
    document: opened.document, bits: Number(bits.value) as 8 | 16, scale: Number(scale.value), backdrop: backdrop.value,
  };
  fault.value = "";
  if (form.value === "picture") {
    working.value = true;
    const wrong = await exports.picture({ ...common, time: clock.time });
    working.value = false;
    if (wrong === null) open.value = false;
    else fault.value = wrong;
    return;
  }
  const [start, end] = timeline.loop;
  const kind = form.value as "webm" | "frames";
  const name = `${opened.title.name || "title"}.${kind === "webm" ? "webm" : "zip"}`;
  await clip.start(exports.clip({ ...common, form: kind, start, end }), name);
}
</script>

<template>
  <v-dialog v-model="open" :aria-label="text.export.title" max-width="440">
    <v-card class="dialog" :title="text.export.title">
      <v-card-text>
        <ChoiceField v-model="form" :label="text.export.what" :choices="FORMS" />
        <p v-if="form !== 'picture'" class="quiet">{{ text.export.frames(frames) }}</p>
        <ChoiceField v-model="scale" :label="text.export.scale" :choices="['0.5', '1', '2', '4']" />
        <p class="quiet">{{ text.export.size(...size) }}</p>
        <ChoiceField v-if="form !== 'webm'" v-model="bits" :label="text.export.bits" :choices="['8', '16']" />
        <SwitchField v-if="hasBackdrop" v-model="backdrop" :label="text.export.backdrop" />
        <p class="quiet">{{ form === "webm" ? text.export.alpha : text.export.transparent }}</p>
        <p v-if="tooLarge" role="alert" class="fault">{{ text.frame.limit }}</p>
        <p v-if="said" role="alert" class="fault">{{ said }}</p>
        <v-progress-linear v-if="working" indeterminate :aria-label="text.export.working" />
        <template v-if="clip.state.value && clip.working.value">
          <v-progress-linear
            :model-value="(clip.state.value.done / clip.state.value.all) * 100"
            height="8"
            :aria-label="text.export.working"
          />
          <p class="quiet" role="status">{{ text.export.done(clip.state.value.done, clip.state.value.all) }} {{ clip.left.value }}</p>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn v-if="clip.working.value" variant="text" @click="clip.stop()">{{ text.export.stop }}</v-btn>
        <v-btn v-else variant="text" @click="open = false">{{ text.act.cancel }}</v-btn>
        <v-btn variant="flat" color="ink" :disabled="working || clip.working.value || tooLarge" data-testid="export" @click="run">
          {{ text.act.export }}
        </v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fault {
  color: #a3271b;
}
</style>
