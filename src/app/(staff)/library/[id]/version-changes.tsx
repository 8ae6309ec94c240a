"use client";
import styled from "styled-components";
import type { Difference } from "@/core/questionnaire";

/** What one version changes of another, in words. */
export function VersionChanges({ changes, none }: { readonly changes: readonly Difference[]; readonly none: string }) {
  return changes.length === 0 ? (
    <p>{none}</p>
  ) : (
    <List>
      {changes.map((change, index) => (
        <li key={index}>{change.words}</li>
      ))}
    </List>
  );
}
const List = styled.ul`
  display: grid;
  gap: 0.35rem;
  list-style: disc;
  padding-inline-start: 1.1rem;
`;
