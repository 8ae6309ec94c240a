"use client";
import styled from "styled-components";
import { buttonShape } from "./button-shape";

/** What stands where an address leads nowhere. Comes with every page, so it is made of little. */
export function NothingHere() {
  return (
    <>
      <h1>Nothing here</h1>
      <p>This address leads nowhere, or to something that is not in your practice.</p>
      <div>
        <Home href="/day" $weight="plain">
          To the Day sheet
        </Home>
      </div>
    </>
  );
}
const Home = styled.a<{ $weight: "plain" }>`
  ${buttonShape}
`;
