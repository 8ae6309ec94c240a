/** What a note's page knows of its note through every reload of its data. No React in it: nothing typed may be lost. */
export class NoteStanding {
  private typed = false;
  private over = false;

  /** @param latest the revision that this page wrote or was shown last */
  constructor(private latest: number) {}

  readonly revision = (): number => this.latest;
  /** Something is typed, or on its way, that the server may not have. */
  readonly isDirty = (): boolean => this.typed;
  /** What is saved next is saved over what somebody else saved, knowing it. */
  readonly isOver = (): boolean => this.over;

  readonly type = (): void => {
    this.typed = true;
  };
  /** @param more whether something was typed while it was on its way */
  readonly kept = (revision: number, more: boolean): void => {
    this.latest = revision;
    this.over = false;
    this.typed = more;
  };
  /** Goes on with what is typed, from what somebody else saved. */
  readonly goOver = (revision: number): void => {
    this.latest = revision;
    this.over = true;
    this.typed = true;
  };
  /** What is typed here is given up. */
  readonly giveUp = (): void => {
    this.typed = false;
  };
  /** Whether a revision is one that was written elsewhere, and may be shown. */
  readonly isElsewhere = (revision: number): boolean => !this.typed && revision !== this.latest;
  /** The editors begin with this one. */
  readonly shows = (revision: number): void => {
    this.latest = revision;
  };
}
