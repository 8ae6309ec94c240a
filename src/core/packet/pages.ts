/** What a practice has its clients' pages do beyond asking. */
export interface PagePolicy {
  /** Staff who may read answers may look at them before they are returned. */
  readonly look: boolean;
  /** Measures ask one question a page; a section a page, as all others do, where it is not said. */
  readonly oneByOne?: boolean;
  /** What is said once a packet is returned, by language; ours where there is nothing. */
  readonly finish: Readonly<Record<string, string>>;
  /** Where they may go on to, over https; empty for nowhere. */
  readonly finishAddress: string;
}
export const startingPages: PagePolicy = { look: false, finish: {}, finishAddress: "" };

/** An address a client may be led to: over https, with a dot in its host, and without a name or a password in it. */
export const isFinishAddress = (text: string): boolean =>
  text.length <= 500 && /^https:\/\/(?:[\p{L}\d-]+\.)+[\p{L}\d-]{2,}(?::\d{1,5})?(?:[/?#][^\s\\]*)?$/u.test(text);
