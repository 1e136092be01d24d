// A word, or a logo, in a finish, as a picture that follows the typing.
import { computed, ref, watch, type Ref } from "vue";
import { api, blobOf, session } from "@/api/client";
import { useLatest } from "./useLatest";
import { turns } from "./turns";

export interface Making {
  text: string;
  font: string;
  width: number;
  height: number;
  /** A picture of the library in the word's place. */
  picture?: string;
}

const { inTurn } = turns(3);

export function useFinishPicture(name: string, making: Ref<Making>, wanted: Ref<boolean>) {
  const question = computed(() => (wanted.value ? { ...making.value } : null));
  const { answer } = useLatest(question, (asked, signal) => inTurn(() => ask(asked, signal), signal));

  async function ask(asked: Making, signal: AbortSignal): Promise<Blob | undefined> {
    const got = await api.GET("/api/finishes/{name}/picture", {
      params: {
        path: { name },
        query: {
          session, text: asked.text, font: asked.font, picture: asked.picture,
          frame_width: asked.width, frame_height: asked.height, width: 600, height: 168,
        },
      },
      parseAs: "blob",
      signal,
    });
    return blobOf(got);
  }
  const url = ref("");
  watch(answer, (picture) => {
    if (!picture) return; // out of sight for a moment: the last one stays
    const before = url.value;
    url.value = URL.createObjectURL(picture);
    if (before) setTimeout(() => URL.revokeObjectURL(before), 500);
  });
  return url;
}
