/** Whether a key or a paste belongs to a field in which somebody writes. */
export function typing(event: Pick<Event, "target">): boolean {
  const target = event.target as HTMLElement | null;
  if (!target?.tagName) return false;
  if (target.isContentEditable || target.tagName === "TEXTAREA" || target.tagName === "SELECT") return true;
  return target.tagName === "INPUT" && !["range", "checkbox", "radio", "color"].includes((target as HTMLInputElement).type);
}
