"use client";
import styled from "styled-components";

/**
 * A page of a questionnaire with the client's page beside it, which stays in sight; below it where there is no room.
 */
export const WithBeside = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 22rem;
  --margin-column: 9.5rem;
  @media (max-width: 70rem) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
export const Beside = styled.aside`
  position: sticky;
  top: 0;
  align-self: start;
  padding-block: 1.1rem 1rem;
  padding-inline: 0 1.5rem;
  @media (max-width: 70rem) {
    position: static;
    padding: 0 1rem 2rem;
  }
`;
