// Who is logged in, where there is a login at all.
import { onMounted, ref } from "vue";
import { api } from "@/api/client";

export function usePerson() {
  const name = ref<string | null>(null);
  onMounted(async () => {
    const answer = await api.GET("/api/person").catch(() => null); // without a connection others say so
    name.value = answer?.data?.name ?? null;
  });
  return name;
}
