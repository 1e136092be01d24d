// Pictures and fonts: uploads with their progress, and what is there.
import { defineStore } from "pinia";
import { ref, shallowRef } from "vue";
import { api, saidBy } from "@/api/client";
import type { components } from "@/api/schema";
import { sendInPieces } from "@/model/sending";
import { text } from "@/text";
import { useCatalogue } from "./catalogue";
import { useNotices } from "./notices";

export type LibraryFile = components["schemas"]["LibraryFile"];
type Changed = components["schemas"]["Changed"];

export interface Upload {
  name: string;
  /** 0 to 1. */
  share: number;
  /** For the connection to come back. */
  waiting: boolean;
  stop: () => void;
}

const FONTS = /\.(ttf|otf|woff2?)$/i;
const PICTURES = /\.(png|jpe?g|webp|tiff?|exr|hdr|svg|webm|mkv|mp4|mov|gif|apng)$/i;
export const ACCEPTED = ".png,.jpg,.jpeg,.webp,.tif,.tiff,.exr,.hdr,.svg,.webm,.mkv,.mp4,.mov,.gif,.apng,.ttf,.otf,.woff,.woff2";

export function isFont(name: string): boolean {
  return FONTS.test(name);
}
export function isPicture(name: string): boolean {
  return PICTURES.test(name);
}
export function pictureUrl(name: string, side: number, version = ""): string {
  return `/api/library/picture?name=${encodeURIComponent(name)}&side=${side}&version=${encodeURIComponent(version)}`;
}

export const useLibrary = defineStore("library", () => {
  const files = shallowRef<LibraryFile[] | null>(null);
  const uploads = ref<Upload[]>([]);
  const catalogue = useCatalogue();
  const notices = useNotices();

  async function load(): Promise<void> {
    try {
      files.value = (await api.GET("/api/library")).data ?? [];
    } catch {
      notices.fault(text.error.network);
    }
  }
  /** Sends one file; what became of it, or null after saying what is wrong. */
  async function upload(file: File): Promise<LibraryFile | null> {
    const sending = sendInPieces(file, (share, waiting) => Object.assign(entry, { share, waiting }));
    uploads.value.push({ name: file.name, share: 0, waiting: false, stop: sending.stop });
    const entry = uploads.value.at(-1)!;
    try {
      const id = await sending.arrived;
      return id === null ? null : await keep(id);
    } catch (fault) {
      notices.fault(fault instanceof Error ? fault.message : text.error.network);
      return null;
    } finally {
      uploads.value = uploads.value.filter((each) => each !== entry);
    }
  }
  /** Puts a file that is all there in the library. */
  async function keep(id: string): Promise<LibraryFile> {
    const params = { path: { file_id: id } };
    const { data, error } = await api.POST("/api/library/arriving/{file_id}/keep", { params });
    if (!data) throw new Error(saidBy(error));
    return data;
  }
  async function uploadAll(list: Iterable<File>): Promise<LibraryFile[]> {
    const kept: LibraryFile[] = [];
    for (const file of list) {
      const one = await upload(file);
      if (one) kept.push(one);
    }
    if (kept.length) await Promise.all([catalogue.reload(), files.value ? load() : null]);
    return kept;
  }
  async function remove(file: LibraryFile): Promise<void> {
    const { error } = await api
      .DELETE("/api/library", { params: { query: { name: file.name } } })
      .catch(() => ({ error: { message: text.error.network } }));
    if (error) notices.fault(saidBy(error));
    else notices.say({ text: text.shelf.removed(file.name) });
    await Promise.all([load(), catalogue.reload()]);
  }
  /** Another file in every title that uses one. */
  async function replace(file: LibraryFile, by: string): Promise<void> {
    const { data, error } = await api
      .POST("/api/library/replace", { body: { name: file.name, by } })
      .catch(() => ({ data: undefined, error: { message: text.error.network } }));
    if (!data) {
      notices.fault(saidBy(error));
      return;
    }
    await load();
    notices.say({
      text: text.library.replaced(file.name, by, data.length),
      act: { label: text.act.undo, run: () => void takeBack(data, notices).then(load) },
    });
  }
  return { files, uploads, load, upload, uploadAll, remove, replace };
});

/** Takes back what an act did to many titles, and says which were changed since. */
export async function takeBack(changed: Changed[], notices: ReturnType<typeof useNotices>): Promise<void> {
  try {
    const { data, error } = await api.POST("/api/titles/take-back", { body: { changed } });
    if (!data) notices.fault(saidBy(error));
    else if (data.left.length) notices.fault(text.library.left(data.left.join(", ")));
  } catch {
    notices.fault(text.error.network);
  }
}
