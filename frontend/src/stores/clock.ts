// The time at which the title is looked at, in seconds.
import { defineStore } from "pinia";
import { ref } from "vue";

export const useClock = defineStore("clock", () => {
  const time = ref(0);
  /** Goes by itself. */
  const playing = ref(false);
  /** The hand is on the ruler: pictures may be coarse. */
  const scrubbing = ref(false);
  return { time, playing, scrubbing };
});
