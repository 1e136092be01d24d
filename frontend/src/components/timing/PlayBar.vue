<script setup lang="ts">
// Play, the time, how fast and how large it plays, and how much moves.
import { mdiPause, mdiPlay, mdiRepeat } from "@mdi/js";
import { computed, ref, watch } from "vue";
import { withKey } from "@/model/shortcuts";
import { plays } from "@/model/title";
import { inFrames, inSeconds, readTime } from "@/model/time/written";
import { useClock } from "@/stores/clock";
import { useFilm } from "@/stores/film";
import { useMotion } from "@/stores/motion";
import { useOpened } from "@/stores/opened";
import { usePanels } from "@/stores/panels";
import { useTimeline } from "@/stores/timeline";
import { text } from "@/text";

const clock = useClock();
const film = useFilm();
const motion = useMotion();
const opened = useOpened();
const panels = usePanels();
const timeline = useTimeline();

const time = computed(() => (clock.playing ? film.at : clock.time));
const playing = computed(() => clock.playing || film.preparing);
const asFrames = ref(false);
const written = computed(() => (asFrames.value ? inFrames(time.value, film.fps) : inSeconds(time.value)));
const words = ref(written.value);
const editing = ref(false);
const wrong = ref(false);
watch(written, (now) => !editing.value && (words.value = now), { immediate: true });

function take() {
  editing.value = false;
  const read = readTime(words.value, film.fps);
  wrong.value = read === null;
  if (read !== null && words.value !== written.value) timeline.goTo(read);
  words.value = written.value;
}
function next(values: readonly number[], now: number): number {
  return values[(values.indexOf(now) + 1) % values.length]!;
}
const PARTS = [1, 0.5, 0.25];
const said = computed(() =>
  !motion.lanes.length && plays(opened.document) ? text.timing.clipRuns : text.timing.moving(motion.lanes.length),
);
</script>

<template>
  <div class="bar">
    <div class="line">
      <button
        class="play"
        type="button"
        :aria-label="playing ? text.timing.pause : text.timing.play"
        :title="withKey(playing ? text.timing.pause : text.timing.play, 'play')"
        @click="film.play()"
      >
        <v-icon :icon="playing ? mdiPause : mdiPlay" size="18" />
      </button>
      <input
        v-model="words"
        class="time mono"
        :class="{ wrong }"
        :aria-label="text.timing.time"
        :title="wrong ? text.timing.wrongTime : undefined"
        @focus="editing = true; ($event.target as HTMLInputElement).select()"
        @blur="take"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
      />
      <button class="plain unit quiet" type="button" :title="text.timing.frame(Math.round(time * film.fps))" @click="asFrames = !asFrames">
        {{ asFrames ? "s:f" : "s" }}
      </button>
      <span class="quiet frames" role="status">
        {{ film.preparing ? text.timing.getReady(film.left) : text.timing.frame(Math.round(time * film.fps)) }}
      </span>
    </div>
    <div class="line small">
      <button
        class="plain"
        type="button"
        :aria-pressed="timeline.runsRound"
        :aria-label="text.timing.around"
        :title="text.timing.around"
        @click="timeline.runsRound = !timeline.runsRound"
      >
        <v-icon :icon="mdiRepeat" size="16" :class="{ off: !timeline.runsRound }" />
      </button>
      <button class="plain" type="button" :title="text.timing.speed" :aria-label="`${text.timing.speed}: ${film.speed}`" @click="film.speed = next(PARTS, film.speed)">
        {{ text.timing.speeds[String(film.speed)] }}
      </button>
      <button class="plain" type="button" :title="text.timing.quality" :aria-label="`${text.timing.quality}: ${film.quality}`" @click="film.quality = next(PARTS, film.quality)">
        {{ text.timing.qualities[String(film.quality)] }}
      </button>
      <span class="space"></span>
      <button class="plain arrivals" type="button" :title="withKey(text.arrivals.title, 'arrivals')" :aria-pressed="panels.arrivals" @click="panels.toggle('arrivals')">
        {{ text.arrivals.open }}
      </button>
    </div>
    <p class="quiet count">{{ said }}</p>
    <p v-if="film.fault" class="fault" role="alert">{{ film.fault }}</p>
  </div>
</template>

<style scoped>
.bar {
  padding: 5px 8px 2px 12px;
  min-width: 0;
}
.line {
  display: flex;
  align-items: center;
  gap: 6px;
}
.small {
  gap: 10px;
  margin-top: 3px;
  font-size: 12px;
}
.small .plain {
  min-height: 24px;
}
.play {
  display: grid;
  place-items: center;
  width: 32px;
  height: 26px;
  border: 0;
  border-radius: 4px;
  background: var(--ink);
  color: var(--panel);
  cursor: pointer;
}
.time {
  width: 52px;
  border: 1px solid transparent;
  border-radius: 3px;
  background: none;
  color: inherit;
  font-size: 15px;
  text-align: right;
}
.time:hover,
.time:focus {
  border-color: var(--line);
  background: var(--raised);
}
.time.wrong {
  border-color: var(--accent);
}
.frames {
  font-size: 12px;
  white-space: nowrap;
}
.off {
  opacity: 0.4;
}
.space {
  flex: 1;
}
.arrivals {
  text-decoration: underline;
  font-weight: 600;
}
.count {
  margin: 0;
  font-size: 12px;
}
.fault {
  margin: 0;
  color: #a3271b;
  font-size: 12px;
}
</style>
