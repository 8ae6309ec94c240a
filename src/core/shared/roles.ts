/** What a member of staff is in the practice. `office` is administration; a supervisor reads what others write. */
export const roles = ["owner", "office", "practitioner", "supervisor"] as const;
export type Role = (typeof roles)[number];

/** What somebody may do with a questionnaire of the Library, from least to most. */
export const libraryRights = ["none", "use", "edit"] as const;
export type LibraryRight = (typeof libraryRights)[number];
