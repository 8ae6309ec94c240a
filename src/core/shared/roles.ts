/** What a member of staff is in the practice. `office` is administration and sees no answers, charts or notes. */
export type Role = "owner" | "office" | "practitioner";

/** What somebody may do with a questionnaire of the Library, from least to most. */
export const libraryRights = ["none", "use", "edit"] as const;
export type LibraryRight = (typeof libraryRights)[number];
