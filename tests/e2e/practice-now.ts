/** The moment at which every end-to-end test's practice, and the one in the pictures, stands still. */
export const practiceNow = "2026-11-25T08:10:00Z";
