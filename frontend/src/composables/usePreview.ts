// The picture that follows the hand: one request at a time, always for the newest state.
import { onScopeDispose, ref, shallowRef, watch, type Ref } from "vue";
import { api, bytesOf, saidBy, session } from "@/api/client";
import { learn, newPaces, shareOf } from "@/model/pace";
import { placeInFrame, type Part, type PixelPlace } from "@/model/part";
import type { Title } from "@/model/title";

export interface PreviewAsk {
  document: Title;
  scale: number;
  tap: string;
  /** Seconds; 0 where it isn't said. */
  time?: number;
  layer?: string;
  /** What of the frame is in sight; without it all of it. */
  part?: Part;
}

export interface Shown {
  image: ImageData;
  ask: PreviewAsk;
  coarse: boolean;
  /** Where the image lies in a picture of the whole frame. */
  place: PixelPlace;
}

export function usePreview(
  ask: Ref<PreviewAsk | null>, moving: Ref<boolean>, lane = "proof", looking: () => boolean = () => false,
) {
  const shown = shallowRef<Shown | null>(null);
  const notices = ref<string[]>([]);
  const fault = ref("");
  const busy = ref(false);
  const paces = newPaces();
  let pending = false;
  let running: { control: AbortController; coarse: boolean } | null = null;
  let stopped = false;

  async function run(): Promise<void> {
    if (busy.value) {
      pending = true;
      // A fine picture of an old state helps nobody, nor a coarse one where the hand has let go.
      if (running && running.coarse !== moving.value) running.control.abort();
      return;
    }
    const wanted = ask.value;
    if (!wanted || stopped) return;
    busy.value = true;
    pending = false;
    const pace = looking() ? paces.looking : paces.setting;
    const share = moving.value ? shareOf(pace) : 1;
    const coarse = share < 1;
    const control = new AbortController();
    running = { control, coarse };
    const began = performance.now();
    try {
      await load(wanted, wanted.scale * share, coarse, control.signal);
      learn(pace, share, performance.now() - began);
    } catch (error) {
      if (!control.signal.aborted) {
        fault.value = saidBy(error);
        if (error instanceof TypeError) setTimeout(() => void run(), 2000); // no connection
      }
    } finally {
      busy.value = false;
      if (pending || (!moving.value && shown.value?.coarse && !fault.value)) void run();
    }
  }

  async function load(wanted: PreviewAsk, scale: number, coarse: boolean, signal: AbortSignal) {
    const answer = await api.POST("/api/preview", {
      body: {
        session,
        lane,
        document: wanted.document,
        scale,
        time: wanted.time ?? 0,
        tap: wanted.tap as "picture",
        layer: wanted.layer,
        part: wanted.part,
        rests: !moving.value,
      },
      parseAs: "arrayBuffer",
      signal,
    });
    if (answer.response.status === 204) return;
    if (answer.error) {
      fault.value = saidBy(answer.error);
      return;
    }
    const [width, height] = (answer.response.headers.get("X-Size") ?? "0 0").split(" ").map(Number);
    const pixels = new Uint8ClampedArray(bytesOf(answer));
    fault.value = "";
    notices.value = JSON.parse(decodeURIComponent(answer.response.headers.get("X-Notices") ?? "%5B%5D"));
    const image = new ImageData(pixels, width ?? 1, height ?? 1);
    const place = wanted.part
      ? placeInFrame(wanted.document.frame, scale, wanted.part)
      : { left: 0, top: 0, width: image.width, height: image.height };
    shown.value = { image, ask: wanted, coarse, place };
  }

  watch(ask, () => void run(), { immediate: true });
  watch(moving, (now) => {
    if (!now && (busy.value || shown.value?.coarse)) void run();
  });
  onScopeDispose(() => {
    stopped = true;
    running?.control.abort();
  });
  return { shown, notices, fault, busy };
}
