import type { Id, Instant } from "@/core/shared";
import type { FillView } from "@/usecases/filling";
import type { AnswerTransport } from "./answer-sync";
import type { KeptEdits } from "./kept-edits";
import type { SignatureMade } from "./sign-form";
import type { Upload } from "./upload";

type PartId = Id<"Part">;
/** What stands behind the client's page: the practice's server, or a rehearsal that keeps nothing. */
export interface FillServer extends AnswerTransport {
  sign(
    partId: PartId,
    made: SignatureMade & { readonly place: string },
  ): Promise<
    | { readonly kind: "signed"; readonly at: Instant }
    | { readonly kind: "incomplete" | "changed" | "not-your-turn" | "no-reply" }
  >;
  /** Asks to sign on paper. True once the practice knows; none where nothing is kept. */
  readonly askPaper?: (partId: PartId, place: string) => Promise<boolean>;
  /** Cuts a signature out of a picture; none where nothing is kept. */
  readonly cut?: (picture: File) => Promise<string | undefined>;
  readonly upload: Upload;
  /** Where the PDF of a worksheet is; none where there is nothing to get. */
  readonly sheet: ((partId: PartId) => string) | undefined;
  /** Where a leaflet is. */
  readonly leaflet?: (id: string) => string;
  /** Returns the packet. True once it is returned, or closed for another reason, and the page says so. */
  submit(comment: string): Promise<boolean>;
  /** Speaks another language from here on; none where the page has but one. */
  readonly chooseLanguage?: (language: string) => Promise<void>;
  /** Asks to stay longer. Gives until when; undefined where that did not work. */
  readonly stay?: (() => Promise<Instant | undefined>) | undefined;
  /** Shuts the page on a device that is not theirs; none on their own. */
  readonly leave?: (() => Promise<void>) | undefined;
  /**
   * Where answers that were all cleared lie until they are put back or returned without; none where nothing is kept.
   */
  readonly keepCleared?: KeptEdits | undefined;
  /** Where one's own answers are to be had as a PDF; none where nothing is kept. */
  readonly paper?: string;
  /** The same as a page. */
  readonly copy?: string;
}

/** What the page shows of a packet; a rehearsal has only the first four. */
export type PacketView = Pick<FillView, "practiceName" | "logo" | "person" | "onBehalfOf" | "parts"> &
  Partial<
    Pick<
      FillView,
      | "role"
      | "signsAs"
      | "age"
      | "passUntil"
      | "fillers"
      | "people"
      | "shared"
      | "oneByOne"
      | "twins"
      | "leaflets"
      | "support"
      | "personalLine"
      | "recallSince"
      | "dueOn"
      | "sentBack"
      | "anew"
    >
  >;
