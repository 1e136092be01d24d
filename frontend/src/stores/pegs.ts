// Acts on the chosen pegs: moved, scaled in time, eased, deleted, copied and pasted.
import { defineStore } from "pinia";
import { withValue } from "@/model/places";
import { isLike, pegsFromText, pegsToText, type CopiedLane } from "@/model/time/copying";
import { held, isNumeric, LATEST, pegsOf, withChangedPegs, withDrift, withoutPegs, withPeg, type Peg } from "@/model/time/varying";
import type { Drift } from "@/model/time/drifting";
import type { Ease } from "@/model/time/easing";
import { text } from "@/text";
import { useClock } from "./clock";
import { useMotion, type Lane } from "./motion";
import { useNotices } from "./notices";
import { useOpened } from "./opened";
import { useTimeline } from "./timeline";

export const usePegs = defineStore("pegs", () => {
  const opened = useOpened();
  const clock = useClock();
  const motion = useMotion();
  const timeline = useTimeline();
  const notices = useNotices();

  const laneOf = (key: string) => motion.lanes.find((lane) => lane.key === key);
  /** The chosen pegs by lane, as the document has them. */
  function picked(): { lane: Lane; numbers: number[]; pegs: Peg[] }[] {
    return Object.entries(timeline.pegs).flatMap(([key, numbers]) => {
      const lane = laneOf(key);
      const pegs = lane ? pegsOf(lane.value) : [];
      const there = numbers.filter((number) => pegs[number]);
      return lane && there.length ? [{ lane, numbers: there, pegs: there.map((number) => pegs[number]!) }] : [];
    });
  }

  /** Every chosen peg after a change, from how all were before a gesture began. */
  function changeAll(
    before: { lane: Lane; numbers: number[] }[], change: (peg: Peg, lane: Lane) => Peg, gesture: string | null,
  ): void {
    let title = opened.document;
    const chosen: Record<string, number[]> = {};
    for (const { lane, numbers } of before) {
      const { value, which } = withChangedPegs(lane.value, numbers, (peg) => change(peg, lane));
      title = withValue(title, lane.place, value);
      chosen[lane.key] = which;
    }
    opened.rewrite(title, gesture);
    timeline.pegs = chosen;
  }

  function move(before: { lane: Lane; numbers: number[] }[], by: number, up: (peg: Peg, lane: Lane) => unknown): void {
    changeAll(
      before,
      (peg, lane) => ({ ...peg, at: within(peg.at + by), value: up(peg, lane) }),
      "move pegs",
    );
  }
  /** So that the first and the last stand there; those between keep their shares. */
  function scale(before: { lane: Lane; numbers: number[] }[], from: [number, number], to: [number, number]): void {
    const long = Math.max(from[1] - from[0], 1e-6);
    const factor = (to[1] - to[0]) / long;
    changeAll(before, (peg) => ({ ...peg, at: within(to[0] + (peg.at - from[0]) * factor) }), "scale pegs");
  }
  const within = (time: number) => Math.round(Math.min(Math.max(time, 0), LATEST) * 1e6) / 1e6;
  const fitting = (value: unknown, { setting }: Lane) => (typeof value === "number" ? held(value, setting) : value);

  function nudge(frames: number, up: number): void {
    const before = picked();
    if (!before.length) return;
    move(before, frames * motion.frame, (peg, { setting }) => {
      if (!up || !isNumeric(setting.kind)) return peg.value;
      const [low, high] = setting.usual ?? [setting.low ?? 0, setting.high ?? 100];
      return held(Number(peg.value) + (up * (high - low)) / 100, setting);
    });
    opened.endGesture();
  }
  function ease(to: Ease, gesture: string | null = null): void {
    const before = picked();
    if (before.length) changeAll(before, (peg) => ({ ...peg, ease: to }), gesture);
  }
  function setValue(lane: Lane, number: number, value: unknown, gesture: string | null = null): void {
    changeAll([{ lane, numbers: [number] }], (peg) => ({ ...peg, value: fitting(value, lane) }), gesture);
  }
  function setTime(lane: Lane, number: number, at: number): void {
    changeAll([{ lane, numbers: [number] }], (peg) => ({ ...peg, at: within(at) }), null);
  }
  function remove(): void {
    let title = opened.document;
    for (const { lane, numbers } of picked()) {
      title = withValue(title, lane.place, withoutPegs(lane.value, numbers, clock.time, lane.setting));
    }
    if (title !== opened.document) opened.rewrite(title);
    timeline.chooseNone();
  }
  function add(lane: Lane, at: number, value?: unknown): void {
    const time = motion.onFrame(at);
    const next = withPeg(lane.value, time, value ?? motion.at(lane.value, time, lane.setting), undefined, motion.near);
    motion.write(lane.place, next);
    timeline.choosePeg(lane.key, pegsOf(next).findIndex((peg) => Math.abs(peg.at - time) < motion.near), false);
  }
  function drift(lane: Lane, to: Drift | null, gesture: string | null = null): void {
    motion.write(lane.place, withDrift(lane.value, to), gesture);
  }
  function chooseAll(): void {
    const keys = motion.chosen.length ? motion.chosen : motion.lanes.map((lane) => lane.key);
    timeline.pegs = Object.fromEntries(
      keys.flatMap((key) => {
        const lane = laneOf(key);
        return lane ? [[key, pegsOf(lane.value).map((_, i) => i)]] : [];
      }),
    );
  }

  async function copy(): Promise<void> {
    const lanes: CopiedLane[] = picked().map(({ lane, pegs }) => ({ kind: lane.setting.kind, pegs }));
    if (!lanes.length) return;
    await navigator.clipboard.writeText(pegsToText(lanes));
    notices.say({ text: text.timing.copied(lanes.reduce((sum, { pegs }) => sum + pegs.length, 0)) });
  }
  /** At the clock's time: into the chosen lanes, in their order; one that was copied into all. */
  async function paste(): Promise<void> {
    const lanes = pegsFromText(await navigator.clipboard.readText().catch(() => ""));
    if (!lanes) return notices.fault(text.timing.notPegs);
    const into = motion.chosen.flatMap((key) => laneOf(key) ?? []);
    if (!into.length) return notices.fault(text.timing.pasteWhere);
    const first = Math.min(...lanes.flatMap(({ pegs }) => pegs.map((peg) => peg.at)));
    let title = opened.document;
    const chosen: Record<string, number[]> = {};
    into.forEach((lane, i) => {
      const from = lanes.length === 1 ? lanes[0] : lanes[i];
      if (!from || !alike(from.kind, lane.setting.kind)) return;
      const example = motion.at(lane.value, clock.time, lane.setting);
      if (!from.pegs.every((peg) => isLike(peg.value, example))) return;
      let value: unknown = lane.value;
      const times = from.pegs.map((peg) => motion.onFrame(clock.time + peg.at - first));
      from.pegs.forEach((peg, n) => {
        value = withPeg(value, times[n]!, fitting(peg.value, lane), peg.ease, motion.near);
      });
      title = withValue(title, lane.place, value);
      chosen[lane.key] = pegsOf(value).flatMap((peg, n) => (times.some((time) => Math.abs(time - peg.at) < motion.near) ? [n] : []));
    });
    if (title === opened.document) return notices.fault(text.timing.notPegs);
    opened.rewrite(title);
    timeline.pegs = chosen;
  }
  const alike = (a: string, b: string) => a === b || (isNumeric(a) && isNumeric(b));

  return { picked, changeAll, move, scale, nudge, ease, setValue, setTime, remove, add, drift, chooseAll, copy, paste };
});
