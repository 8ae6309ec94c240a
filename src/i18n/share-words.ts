import { clientLanguage, type ClientLanguage } from "./languages";

/** What a client reads of their own scores on a screen that others may see: short, plain, no names. */
export interface ShareWords {
  readonly title: string;
  readonly was: (value: string, day: string) => string;
  readonly is: (value: string, day: string) => string;
  readonly better: Readonly<Record<"lower" | "higher", string>>;
  readonly state: Readonly<Record<"recovered" | "improved" | "no-change" | "worse" | "not-known", string>>;
  /** Of two buttons: to the score before this one, and to the next. */
  readonly before: string;
  readonly next: string;
}
const words: Readonly<Record<ClientLanguage, ShareWords>> = {
  en: {
    title: "Your answers over time",
    was: (value, day) => `On ${day} it was ${value}.`,
    is: (value, day) => `On ${day} it was ${value}, the last time you answered.`,
    better: { lower: "Lower is better.", higher: "Higher is better." },
    state: {
      recovered: "That is a real change for the better, into the usual range.",
      improved: "That is a real change for the better.",
      "no-change": "That is about the same: small steps up and down are usual.",
      worse: "That is harder than before. Let us talk about it.",
      "not-known": "",
    },
    before: "The score before",
    next: "The next score",
  },
  es: {
    title: "Sus respuestas a lo largo del tiempo",
    was: (value, day) => `El ${day} era ${value}.`,
    is: (value, day) => `El ${day}, la última vez que respondió, era ${value}.`,
    better: { lower: "Más bajo es mejor.", higher: "Más alto es mejor." },
    state: {
      recovered: "Es un cambio real a mejor, hasta lo habitual.",
      improved: "Es un cambio real a mejor.",
      "no-change": "Está más o menos igual: los pequeños altibajos son normales.",
      worse: "Es más difícil que antes. Hablemos de ello.",
      "not-known": "",
    },
    before: "El resultado anterior",
    next: "El resultado siguiente",
  },
  fr: {
    title: "Vos réponses au fil du temps",
    was: (value, day) => `Le ${day}, c’était ${value}.`,
    is: (value, day) => `Le ${day}, la dernière fois que vous avez répondu, c’était ${value}.`,
    better: { lower: "Plus bas, c’est mieux.", higher: "Plus haut, c’est mieux." },
    state: {
      recovered: "C’est un vrai changement en mieux, jusqu’à ce qui est habituel.",
      improved: "C’est un vrai changement en mieux.",
      "no-change": "C’est à peu près pareil : de petits hauts et bas sont normaux.",
      worse: "C’est plus difficile qu’avant. Parlons-en.",
      "not-known": "",
    },
    before: "Le score précédent",
    next: "Le score suivant",
  },
  ar: {
    title: "إجاباتك مع مرور الوقت",
    was: (value, day) => `في ${day} كانت ${value}.`,
    is: (value, day) => `في ${day}، آخر مرة أجبت فيها، كانت ${value}.`,
    better: { lower: "الأقل أفضل.", higher: "الأعلى أفضل." },
    state: {
      recovered: "هذا تحسن حقيقي وصل إلى المعتاد.",
      improved: "هذا تحسن حقيقي.",
      "no-change": "الوضع تقريبًا كما هو: الصعود والهبوط القليل أمر معتاد.",
      worse: "الأمر أصعب من قبل. لنتحدث عنه.",
      "not-known": "",
    },
    before: "النتيجة السابقة",
    next: "النتيجة التالية",
  },
};
export const shareWords = (language: string): ShareWords => words[clientLanguage(language)];
