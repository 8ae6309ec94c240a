/** What a practice has its clients' pages do beyond asking. */
export interface PagePolicy {
  /** Staff who may read answers may look at them before they are returned. */
  readonly look: boolean;
  /** Measures ask one question a page; a section a page, as all others do, where it is not said. */
  readonly oneByOne?: boolean;
  /** What is said once a packet is returned, by language; ours where there is nothing. */
  readonly finish: Readonly<Record<string, string>>;
  /** For somebody in danger, by language: whom to call, and when. Shown beside an answer that alarms, and nowhere else. */
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

const main = (tag: string): string => tag.split("-")[0]!.toLowerCase();
/** Words for somebody in danger, and the language they are in: the reader's, else the practice's, which is to be said. */
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
    const text = support[main(tag)];
    if (text) return { text, language: main(tag) };
  }
  return undefined;
}
export const speaks = (support: Readonly<Record<string, string>> = {}, language: string): boolean =>
  Boolean(support[main(language)]);
/** Words for somebody in danger name a phone number: three digits or more, in any digits. */
export const namesNumber = (text: string): boolean => /\p{Nd}[\p{Nd}\s-]{1,}\p{Nd}/u.test(text);
