// What moves in the title: settings changed at a time, and their pegs.
import { defineStore } from "pinia";
import { computed, ref } from "vue";
import { movingIn, type Placed } from "@/model/parts";
import { keyOf, valueAt, withValue, type Place } from "@/model/places";
import { loopOf } from "@/model/time/standing";
import {
  isVarying, pegAt, pegsOf, valueOver, withoutPegs, withPeg, type Kind, type Varying,
} from "@/model/time/varying";
import type { Setting } from "@/model/title";
import { useCatalogue } from "./catalogue";
import { useClock } from "./clock";
import { useOpened } from "./opened";

export type PegState = "constant" | "moving" | "pegged";
export interface Lane extends Placed {
  key: string;
  value: Varying;
}

export const useMotion = defineStore("motion", () => {
  const opened = useOpened();
  const clock = useClock();
  const catalogue = useCatalogue();

  let last: Lane[] = []; // lanes that did not change stay the same objects
  /** Every setting that moves, in the order of the document. */
  const lanes = computed<Lane[]>(() => {
    if (!opened.document) return [];
    const before = new Map(last.map((lane) => [lane.key, lane]));
    last = [...movingIn(opened.document, catalogue)].map((each) => {
      const key = keyOf(each.place);
      const was = before.get(key);
      const same = was?.value === each.value && was.setting === each.setting && was.part.label === each.part.label;
      return same ? was : { ...each, key };
    });
    return last;
  });

  /** The lanes that are worked on, by their keys: the last one chosen is where keys go. */
  const chosen = ref<string[]>([]);
  const loop = computed(() => loopOf(opened.document));
  const frame = computed(() => 1 / opened.document.frame.fps);
  const near = computed(() => frame.value / 2);

  function raw(place: Place): unknown {
    return valueAt(opened.document, place);
  }
  /** What a setting is at the clock's time; its default where the document says nothing. */
  function now(place: Place, setting: Setting): unknown {
    return valueAt(opened.title, place) ?? setting.default;
  }
  function write(place: Place, value: unknown, gesture: string | null = null): void {
    opened.rewrite(withValue(opened.document, place, value), gesture);
  }
  /** Another value: a peg at the clock's time where the setting moves. */
  function set(place: Place, value: unknown, gesture: string | null = keyOf(place)): void {
    const before = raw(place);
    write(place, isVarying(before) ? withPeg(before, onFrame(clock.time), value, undefined, near.value) : value, gesture);
  }

  function stateOf(place: Place): PegState {
    const value = raw(place);
    if (!isVarying(value)) return "constant";
    return pegAt(value, clock.time, near.value) >= 0 ? "pegged" : "moving";
  }
  /** Sets a peg at the clock's time, or takes it away. */
  function togglePeg(place: Place, setting: Setting): void {
    const value = raw(place);
    const at = pegAt(value, clock.time, near.value);
    const next = at >= 0
      ? withoutPegs(value, [at], clock.time, setting)
      : withPeg(value, onFrame(clock.time), now(place, setting), undefined, near.value);
    write(place, next);
    if (isVarying(next)) chosen.value = [keyOf(place)];
  }
  /** The value of now, for good. */
  function stop(place: Place, setting: Setting): void {
    write(place, now(place, setting));
  }
  function at(value: unknown, time: number, kind: Kind): unknown {
    return valueOver(value, time, kind, loop.value);
  }
  function onFrame(time: number): number {
    const { fps } = opened.document.frame;
    return Math.round((Math.round(time * fps) / fps) * 1e6) / 1e6;
  }

  /** The time of the nearest peg before or after now, of the chosen lanes or else of all. */
  function pegBeside(way: 1 | -1): number | null {
    const of = lanes.value.filter((lane) => !chosen.value.length || chosen.value.includes(lane.key));
    const times = of.flatMap((lane) => pegsOf(lane.value).map((peg) => peg.at));
    const beyond = times.filter((time) => (time - clock.time) * way > near.value);
    return beyond.length ? (way > 0 ? Math.min(...beyond) : Math.max(...beyond)) : null;
  }
  return { lanes, chosen, loop, frame, near, raw, now, write, set, stateOf, togglePeg, stop, at, onFrame, pegBeside };
});
