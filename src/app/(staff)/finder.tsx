"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { dateWords } from "@/core/questionnaire";
import { holdsWords } from "@/core/shared";
import type { Right } from "@/core/team";
import { untilLoaded } from "@/ui/kit/by-need";
import { FindBox } from "@/ui/kit/find-box";
import { places } from "@/ui/kit/spine";
import { useTimeFrame } from "@/ui/kit/time";
import { officePages } from "./office/office-pages";
import { findablesAction, findPeopleAction, type Findables } from "./actions";
import { useFound } from "./use-found";

const pages: readonly { readonly href: string; readonly name: string; readonly right: Right | undefined }[] = [
  ...places,
  { href: "/week", name: "Week", right: "day.read" },
  { href: "/visits/new", name: "Make a visit", right: "visit.book" },
  { href: "/send", name: "Send to somebody", right: "packet.send" },
  { href: "/send/many", name: "Send to many", right: "packet.send" },
  { href: "/people/new", name: "Add a client", right: "people.write" },
  { href: "/people/bring", name: "Bring clients from a file", right: "people.write" },
  { href: "/post-room", name: "Post room", right: "post-room.read" },
  { href: "/library/standing", name: "Standing packets and leaflets", right: "library.read" },
  ...officePages,
];
const mostShown = 6;

export interface FinderProps {
  readonly rights: readonly Right[];
  readonly label: string;
  readonly sought: string;
  readonly onSought: (sought: string) => void;
  readonly onDone: (back: boolean) => void;
}
/**
 * A person, a questionnaire or a page, by typing. What is typed is looked up by the server, in no address and no log.
 */
export function Finder({ rights, label, sought, onSought, onDone }: FinderProps) {
  const router = useRouter();
  const { locale } = useTimeFrame();
  const [all, setAll] = useState<Findables | "unreachable">();
  useEffect(() => {
    const gone = new AbortController();
    untilLoaded(findablesAction, () => {
      gone.signal.throwIfAborted();
      setAll("unreachable");
    }).then(
      (found) => {
        if (!gone.signal.aborted) setAll(found);
      },
      () => undefined,
    );
    return () => gone.abort();
  }, []);
  const mayPeople = rights.includes("people.read");
  const text = sought.trim();
  const people = useFound({ sought: text, most: mostShown }, async (asked) =>
    asked.sought === "" || !mayPeople
      ? { lines: [], total: 0, previous: undefined, next: undefined }
      : findPeopleAction(asked),
  );
  const known = typeof all === "object" ? all : { questionnaires: [] };
  const lost = all === "unreachable" || people.unreachable;
  // Nothing before everything is here: Enter would take a page for a person who is not looked up yet.
  const settled = all !== undefined && (people.settled || people.unreachable);
  const nothingOf = () => {
    if (lost) return "People and questionnaires cannot be looked up just now. Pages can.";
    return settled ? "Nothing here is like that." : "Looking…";
  };
  return (
    <FindBox
      label={label}
      sought={sought}
      onSought={onSought}
      settled={settled}
      groups={
        all === undefined || people.answer === undefined
          ? []
          : [
              {
                name: "People",
                lines: people.answer.lines.map((p) => ({
                  id: `/people/${p.id}`,
                  name: p.name,
                  beside: [p.birthDate && dateWords(p.birthDate, locale), p.archived && "archived"]
                    .filter(Boolean)
                    .join(" · "),
                })),
              },
              {
                name: "Questionnaires",
                lines: known.questionnaires
                  .filter((q) => holdsWords(q.title, text))
                  .slice(0, mostShown)
                  .map((q) => ({ id: q.href, name: q.title })),
              },
              {
                name: "Pages",
                lines: pages
                  .filter((p) => (p.right === undefined || rights.includes(p.right)) && holdsWords(p.name, text))
                  .map((p) => ({ id: p.href, name: p.name })),
              },
            ]
      }
      nothing={nothingOf()}
      onFound={(href) => {
        onDone(false);
        router.push(href);
      }}
      onLeave={onDone}
    />
  );
}
