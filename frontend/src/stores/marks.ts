// Marks: named states of the title on the bench; and its revisions.
import { defineStore } from "pinia";
import { ref, shallowRef } from "vue";
import { api } from "@/api/client";
import type { components } from "@/api/schema";
import type { Title } from "@/model/title";
import { text } from "@/text";
import { useOpened } from "./opened";
import { useAsked } from "./asked";
import { useNotices } from "./notices";
import { useProof } from "./proof";

export type Mark = components["schemas"]["MarkSummary"];
export type Revision = components["schemas"]["RevisionSummary"];

export const useMarks = defineStore("marks", () => {
  const opened = useOpened();
  const notices = useNotices();
  const { asked } = useAsked();
  const proof = useProof();
  const all = shallowRef<Mark[]>([]);
  const revisions = shallowRef<Revision[]>([]);
  const of = ref("");
  /** Marks set, named anew or removed so far: a list asked for before one of these is stale when it comes. */
  let changes = 0;

  const path = () => ({ title_id: opened.id });

  async function load(): Promise<void> {
    if (of.value !== opened.id) all.value = revisions.value = [];
    of.value = opened.id;
    const before = changes;
    const found = await asked(api.GET("/api/titles/{title_id}/marks", { params: { path: path() } }));
    if (before !== changes) return load();
    all.value = found ?? [];
  }
  function changed(marks: Mark[]): void {
    changes += 1;
    all.value = marks;
  }
  async function loadRevisions(): Promise<void> {
    revisions.value =
      (await asked(api.GET("/api/titles/{title_id}/revisions", { params: { path: path() } }))) ?? [];
  }
  async function set(name?: string): Promise<void> {
    await load();
    const taken = new Set(all.value.map((mark) => mark.name));
    let number = all.value.length + 1;
    while (taken.has(text.marks.numbered(number))) number += 1;
    const body = { name: (name ?? text.marks.numbered(number)).slice(0, 100), document: opened.document };
    const made = await asked(api.POST("/api/titles/{title_id}/marks", { params: { path: path() }, body }));
    if (!made) return;
    changed([made, ...all.value.filter((each) => each.id !== made.id)]);
    notices.say({ text: text.marks.wasSet(made.name) });
  }
  async function rename(mark: Mark, name: string): Promise<void> {
    const params = { path: { ...path(), mark_id: mark.id } };
    const done = await asked(api.PATCH("/api/titles/{title_id}/marks/{mark_id}", { params, body: { name } }));
    if (done) changed(all.value.map((each) => (each.id === mark.id ? done : each)));
  }
  async function remove(mark: Mark): Promise<void> {
    const document = await documentOf(mark);
    const params = { path: { ...path(), mark_id: mark.id } };
    try {
      await api.DELETE("/api/titles/{title_id}/marks/{mark_id}", { params });
    } catch {
      notices.fault(text.error.network);
      return;
    }
    changed(all.value.filter((each) => each.id !== mark.id));
    if (!document) return;
    const again = async () => {
      const body = { name: mark.name, document };
      await asked(api.POST("/api/titles/{title_id}/marks", { params: { path: path() }, body }));
      changes += 1;
      await load();
    };
    notices.say({ text: text.shelf.removed(mark.name), act: { label: text.act.undo, run: () => void again() } });
  }
  function documentOf(mark: Mark): Promise<Title | undefined> {
    const params = { path: { ...path(), mark_id: mark.id } };
    return asked(api.GET("/api/titles/{title_id}/marks/{mark_id}", { params }));
  }
  function documentAt(revision: Revision): Promise<Title | undefined> {
    const params = { path: { ...path(), version: revision.version } };
    return asked(api.GET("/api/titles/{title_id}/revisions/{version}", { params }));
  }
  /** Wipe the proof between a state and the state now. */
  async function compare(name: string, document: Promise<Title | undefined>): Promise<void> {
    const found = await document;
    if (found) proof.compared = { name, document: found };
  }
  /** Go back to a state; that is itself undone by undo. */
  async function goBack(name: string, document: Promise<Title | undefined>): Promise<void> {
    opened.asking += 1;
    const found = await document.finally(() => (opened.asking -= 1));
    if (!found) return;
    opened.change(found);
    notices.say({ text: text.marks.wentBack(name), act: { label: text.act.undo, run: opened.undo } });
  }
  return { all, revisions, load, loadRevisions, set, rename, remove, documentOf, documentAt, compare, goBack };
});
