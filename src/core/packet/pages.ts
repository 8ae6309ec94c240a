import { mainLanguage } from "../shared";

/** What a practice has its clients' pages do beyond asking. */
export interface PagePolicy {
  /** Staff who may read answers may look at them before they are returned. */
  readonly look: boolean;
  /** Measures ask one question a page; a section a page, as all others do, where it is not said. */
  readonly oneByOne?: boolean;
  /** What is said once a packet is returned, by language; ours where there is nothing. */
  readonly finish: Readonly<Record<string, string>>;
  /**
   * For somebody in danger, by language: whom to call, and when. Shown beside an answer that alarms, and nowhere else.
   */
  readonly support?: Readonly<Record<string, string>>;
  /** How letters to somebody else name the client. */
  readonly clientNamed?: "first-name" | "initials";
  /** Where they may go on to, over https; empty for nowhere. */
  readonly finishAddress: string;
}
export const startingPages: PagePolicy = { look: false, finish: {}, finishAddress: "" };

/** An address a client may be led to: over https, with a dot in its host, and without a name or a password in it. */
export const isFinishAddress = (text: string): boolean =>
  text.length <= 500 && /^https:\/\/(?:[\p{L}\d-]+\.)+[\p{L}\d-]{2,}(?::\d{1,5})?(?:[/?#][^\s\\]*)?$/u.test(text);

/**
 * Words for somebody in danger, and the language they are in: the reader's, else the practice's, which is to be said.
 */
export interface Support {
  readonly text: string;
  readonly language: string;
}
export function supportFor(
  support: Readonly<Record<string, string>> = {},
  language: string,
  practiceLocale: string,
): Support | undefined {
  for (const tag of [language, practiceLocale, ...Object.keys(support)]) {
    const text = support[mainLanguage(tag)];
    if (text) return { text, language: mainLanguage(tag) };
  }
  return undefined;
}
/**
 * Words for somebody in danger name a phone number: three digits together, as emergency numbers have, or more in
 * groups; hours ("9-17") are none.
 */
export const namesNumber = (text: string): boolean => /\p{Nd}{3}|(?:\p{Nd}{2}[\s().-]*){3}/u.test(text);
