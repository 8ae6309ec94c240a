"use client";
import { useEffect, useRef, type ReactNode } from "react";
import { Collection } from "react-aria-components/Collection";
import { ComboBox } from "react-aria-components/ComboBox";
import { Header, ListBox, ListBoxSection } from "react-aria-components/ListBox";
import styled from "styled-components";
import { Soft } from "./page";
import { Line, Pop, Row } from "./pick";

export interface Findable {
  readonly id: string;
  readonly name: string;
  readonly beside?: string | undefined;
}
export interface FindBoxProps {
  readonly label: string;
  readonly sought: string;
  readonly onSought: (sought: string) => void;
  /** What is like the text that was typed, in groups under a word each. */
  readonly groups: readonly { readonly name: string; readonly lines: readonly Findable[] }[];
  /** What stands there is for the text as it is now; until then Enter waits. */
  readonly settled: boolean;
  /** Said where nothing is like it. */
  readonly nothing: ReactNode;
  readonly onFound: (id: string) => void;
  /** Left without having found anything; `back` by Escape, to where one was. */
  readonly onLeave: (back: boolean) => void;
}
/** Finds one thing by typing: arrows walk through what is like it, Enter takes the first or the one walked to. */
export function FindBox({ label, sought, onSought, groups: all, settled, nothing, onFound, onLeave }: FindBoxProps) {
  const groups = sought.trim() === "" ? [] : all.filter((g) => g.lines.length > 0).map((g) => ({ ...g, id: g.name }));
  const wanted = useRef(false);
  const first = groups[0]?.lines[0];
  useEffect(() => {
    if (!settled || !wanted.current) return;
    wanted.current = false;
    if (first) onFound(first.id);
  }, [settled, first, onFound]);
  return (
    <ComboBox
      aria-label={label}
      items={groups}
      inputValue={sought}
      onInputChange={(typed) => {
        wanted.current = false;
        onSought(typed);
      }}
      selectedKey={null}
      menuTrigger="focus"
      allowsCustomValue
      allowsEmptyCollection={sought.trim() !== ""}
      onSelectionChange={(key) => {
        if (key !== null) onFound(String(key));
      }}
      onBlur={() => onLeave(false)}
    >
      <Line
        autoFocus
        dir="auto"
        onFocus={(event) => event.currentTarget.setSelectionRange(sought.length, sought.length)}
        onKeyDown={(event) => {
          if (event.key === "Escape") onLeave(true);
          const isChoice =
            event.key === "Enter" &&
            !event.nativeEvent.isComposing &&
            !event.currentTarget.getAttribute("aria-activedescendant");
          if (!isChoice || sought.trim() === "") return;
          if (!settled) wanted.current = true;
          else if (first) onFound(first.id);
        }}
      />
      <Wide placement="bottom start">
        <ListBox renderEmptyState={() => <Nothing>{nothing}</Nothing>}>
          {(group: (typeof groups)[number]) => (
            <ListBoxSection id={group.id}>
              <GroupName>{group.name}</GroupName>
              <Collection items={group.lines}>
                {(line) => (
                  <Row id={line.id} textValue={line.name}>
                    <bdi>{line.name}</bdi>
                    {line.beside ? <Soft> · {line.beside}</Soft> : null}
                  </Row>
                )}
              </Collection>
            </ListBoxSection>
          )}
        </ListBox>
      </Wide>
    </ComboBox>
  );
}
const Wide = styled(Pop)`
  width: min(26rem, 92vw);
`;
const GroupName = styled(Header)`
  padding: 0.6rem 0.75rem 0.2rem;
  color: var(--soft);
  font-size: var(--small);
  border-block-start: 1px solid var(--rule);
`;
const Nothing = styled.div`
  padding: 0.6rem 0.75rem;
  color: var(--soft);
`;
