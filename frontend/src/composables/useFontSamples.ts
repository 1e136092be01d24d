// The outlines of a word in every font, while they are looked at.
import { computed, type Ref } from "vue";
import { api } from "@/api/client";
import { useLatest } from "./useLatest";

export function useFontSamples(word: Ref<string>, wanted: Ref<boolean>) {
  const question = computed(() => (wanted.value ? word.value.split("\n")[0]?.slice(0, 24) || "Aa" : null));
  return useLatest(question, async (text, signal) =>
    (await api.GET("/api/fonts/samples", { params: { query: { text } }, signal })).data,
  );
}
