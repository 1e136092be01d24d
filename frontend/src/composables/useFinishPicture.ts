// A word in a finish, as a picture that follows the typing.
import { computed, ref, watch, type Ref } from "vue";
import { api, session } from "@/api/client";
import { useLatest } from "./useLatest";
import { turns } from "./turns";

export interface Making {
  text: string;
  font: string;
  width: number;
  height: number;
}

const { inTurn } = turns(3);

export function useFinishPicture(name: string, making: Ref<Making>) {
  const question = computed(() => ({ ...making.value }));
  const { answer } = useLatest(question, (asked, signal) => inTurn(() => ask(asked, signal), signal));

  async function ask(asked: Making, signal: AbortSignal): Promise<Blob | undefined> {
    const got = await api.GET("/api/finishes/{name}/picture", {
      params: {
        path: { name },
        query: {
          session, text: asked.text, font: asked.font,
          frame_width: asked.width, frame_height: asked.height, width: 600, height: 168,
        },
      },
      parseAs: "blob",
      signal,
    });
    return got.response.status === 200 ? (got.data as unknown as Blob) : undefined;
  }
  const url = ref("");
  watch(answer, (picture) => {
    const before = url.value;
    url.value = picture ? URL.createObjectURL(picture) : "";
    if (before) setTimeout(() => URL.revokeObjectURL(before), 500);
  });
  return url;
}
