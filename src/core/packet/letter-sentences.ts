import { mainLanguage } from "../shared";
import type { Door } from "./door";

/** What the letter says of the door, by language and by how it is opened: nothing where the link alone opens it. */
const doorSentences: Readonly<
  Record<string, Readonly<Record<"email" | "text" | "last-name" | "postcode" | "read-out", string>>>
> = {
  en: {
    email: "We will send you a code by e-mail first, to be sure it is you.",
    text: "We will send you a code by text first, to be sure it is you.",
    "last-name": "We will ask for a birth date and a last name first, to be sure it is you.",
    postcode: "We will ask for a birth date and a postcode first, to be sure it is you.",
    "read-out": "You will need a code to open it. Please ask us for it.",
  },
  es: {
    email: "Antes le enviamos un código por correo, para saber que es usted.",
    text: "Antes le enviamos un código por mensaje de texto, para saber que es usted.",
    "last-name": "Antes le preguntamos una fecha de nacimiento y un apellido, para saber que es usted.",
    postcode: "Antes le preguntamos una fecha de nacimiento y un código postal, para saber que es usted.",
    "read-out": "Para abrirla necesita un código. Pídanoslo, por favor.",
  },
  fr: {
    email: "Nous vous envoyons d’abord un code par e-mail, pour être sûrs que c’est vous.",
    text: "Nous vous envoyons d’abord un code par SMS, pour être sûrs que c’est vous.",
    "last-name": "Nous vous demandons d’abord une date de naissance et un nom, pour être sûrs que c’est vous.",
    postcode: "Nous vous demandons d’abord une date de naissance et un code postal, pour être sûrs que c’est vous.",
    "read-out": "Il vous faut un code pour l’ouvrir. Demandez-le-nous.",
  },
  ar: {
    email: "نرسل إليك رمزًا بالبريد الإلكتروني أولًا لنتأكد أنك أنت.",
    text: "نرسل إليك رمزًا برسالة نصية أولًا لنتأكد أنك أنت.",
    "last-name": "نسألك أولًا عن تاريخ ميلاد واسم عائلة لنتأكد أنك أنت.",
    postcode: "نسألك أولًا عن تاريخ ميلاد ورمز بريدي لنتأكد أنك أنت.",
    "read-out": "تحتاج إلى رمز لفتحها. نرجو أن تطلبه منا.",
  },
};
export function doorSentence(door: Door, language: string): string {
  const said = doorSentences[mainLanguage(language)] ?? doorSentences["en"]!;
  switch (door.way) {
    case "code":
      return said[door.channel];
    case "details":
      return said[door.details];
    case "read-out":
      return said["read-out"];
    case "none":
      return "";
  }
}
const aboutSentences: Readonly<Record<string, (name: string) => string>> = {
  en: (name) => `This is about ${name}.`,
  es: (name) => `Se trata de ${name}.`,
  fr: (name) => `Il s’agit de ${name}.`,
  ar: (name) => `هذا بشأن ${name}.`,
};
/**
 * Whom somebody else answers for: by first name, or by initials where the practice says so or the link alone opens the
 * page.
 */
export const clientNameIn = (
  named: "first-name" | "initials",
  door: Door,
  { firstName, lastName }: { readonly firstName: string; readonly lastName: string },
): string =>
  named === "first-name" && door.way !== "none"
    ? firstName
    : [firstName, lastName]
        .map((n) => (n === "" ? "" : `${[...n][0]!}.`))
        .join(" ")
        .trim();
export const aboutSentence = (name: string, language: string): string =>
  (aboutSentences[mainLanguage(language)] ?? aboutSentences["en"]!)(name);
