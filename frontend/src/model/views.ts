// Other views of a title that are looked at but never saved.
import type { Title } from "./title";

/** Without its backdrops and floors: hidden, not taken away, since others may show one. */
export function withoutBackdrops(title: Title): Title {
  const hidden = title.layers.map((layer) => (["backdrop", "plate", "floor"].includes(layer.kind) ? { ...layer, visible: false } : layer));
  return { ...title, layers: hidden };
}
