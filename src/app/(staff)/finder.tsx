"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { findPeople } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import { holdsWords } from "@/core/shared";
import type { Right } from "@/core/team";
import { untilLoaded } from "@/ui/kit/by-need";
import { FindBox } from "@/ui/kit/find-box";
import { places } from "@/ui/kit/spine";
import { useTimeFrame } from "@/ui/kit/time";
import { officePages } from "./office/office-pages";
import { findablesAction, type Findables } from "./actions";

const pages: readonly { readonly href: string; readonly name: string; readonly right: Right | undefined }[] = [
  ...places,
  { href: "/week", name: "Week", right: "day.read" },
  { href: "/visits/new", name: "Make a visit", right: "visit.book" },
  { href: "/send", name: "Send to somebody", right: "packet.send" },
  { href: "/send/many", name: "Send to many", right: "packet.send" },
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
/** A person, a questionnaire or a page, by typing. What is typed stays in the browser. */
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
  const known = typeof all === "object" ? all : { people: [], questionnaires: [] };
  const nothingOf = () => {
    if (all === undefined) return "Looking…";
    if (all === "unreachable") return "People and questionnaires cannot be looked up just now. Pages can.";
    return "Nothing here is like that.";
  };
  return (
    <FindBox
      label={label}
      sought={sought}
      onSought={onSought}
      // Nothing before everything is here: Enter would take a page for a person who is not looked up yet.
      find={(text) =>
        all === undefined
          ? []
          : [
              {
                name: "People",
                lines: findPeople(known.people, text, (p) => p.identity)
                  .slice(0, mostShown)
                  .map((p) => ({
                    id: p.href,
                    name: p.name,
                    beside: p.identity.birthDate && dateWords(p.identity.birthDate, locale),
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
