// Asking the studio, and saying what went wrong.
import { saidBy } from "@/api/client";
import { text } from "@/text";
import { useNotices } from "./notices";

type Answer<T> = { data?: T; error?: unknown };

export function useAsked() {
  const notices = useNotices();

  async function answered<T>(work: Promise<Answer<T>>): Promise<Answer<T>> {
    try {
      const answer = await work;
      if (answer.error !== undefined) notices.fault(saidBy(answer.error));
      return answer;
    } catch (lost) {
      notices.fault(text.error.network);
      return { error: lost };
    }
  }
  /** What came back, or undefined after saying what is wrong. */
  async function asked<T>(work: Promise<Answer<T>>): Promise<T | undefined> {
    return (await answered(work)).data;
  }
  /** Whether it went well; what did not is said. */
  async function went(work: Promise<Answer<unknown>>): Promise<boolean> {
    return (await answered(work)).error === undefined;
  }
  return { asked, went };
}
