import { allQuestions, loadPatterns, type Item, type Questionnaire } from "@/core/questionnaire";
import { signaturePlaces } from "@/core/signing";
import { byNeed } from "@/ui/kit/by-need";

// Each of these is a good part of a page's script, and many packets ask for none of them.
export const DateField = byNeed(async () => (await import("@/ui/kit/date-field")).DateField);
export const FileQuestion = byNeed(async () => (await import("./file-question")).FileQuestion);
export const Pick = byNeed(async () => (await import("@/ui/kit/pick")).Pick);
export const SignForm = byNeed(async () => (await import("./sign-form")).SignForm);
export const LookUp = byNeed(async () => (await import("@/ui/kit/pick")).LookUp);

const partOf = (item: Item): { preload(): void } | undefined => {
  if (item.type === "date") return DateField;
  if (item.type === "attachment") return FileQuestion;
  if (item.type !== "choice" && item.type !== "open-choice") return undefined;
  if (item.control === "autocomplete") return LookUp;
  return item.control === "drop-down" ? Pick : undefined;
};
/** Loads what a later page will ask for, while the line is there. */
export function preloadFor(questionnaires: readonly Questionnaire[]): void {
  const questions = questionnaires.flatMap(allQuestions);
  for (const question of questions) partOf(question)?.preload();
  // Without it the server alone looks at what a pattern asks for.
  if (questions.some((question) => question.pattern !== undefined)) loadPatterns().catch(() => undefined);
  if (questionnaires.some((one) => signaturePlaces(one).length > 0)) SignForm.preload();
}
