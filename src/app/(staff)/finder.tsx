"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { findPeople } from "@/core/chart";
import { dateWords } from "@/core/questionnaire";
import { holdsWords, type Role } from "@/core/shared";
import { untilLoaded } from "@/ui/kit/by-need";
import { FindBox } from "@/ui/kit/find-box";
import { places } from "@/ui/kit/spine";
import { useTimeFrame } from "@/ui/kit/time";
import { findablesAction, type Findables } from "./actions";

const pages: readonly { readonly href: string; readonly name: string; readonly for: readonly Role[] }[] = [
  ...places,
  { href: "/send", name: "Send to somebody", for: ["owner", "office", "practitioner"] },
  { href: "/send/many", name: "Send to many", for: ["owner", "office", "practitioner"] },
  { href: "/post-room", name: "Post room", for: ["owner", "office", "practitioner"] },
  { href: "/library/standing", name: "Standing packets and leaflets", for: ["owner", "office", "practitioner"] },
  { href: "/office/door", name: "Door check", for: ["owner", "office"] },
  { href: "/office/pages", name: "Clients’ pages", for: ["owner", "office"] },
  { href: "/office/wordings", name: "Letters and texts", for: ["owner", "office"] },
  { href: "/office/fields", name: "Chart fields", for: ["owner", "office"] },
  { href: "/office/journal", name: "Journal", for: ["owner", "office"] },
];
const mostShown = 6;

export interface FinderProps {
  readonly role: Role;
  readonly label: string;
  readonly sought: string;
  readonly onSought: (sought: string) => void;
  readonly onDone: (back: boolean) => void;
}
/** A person, a questionnaire or a page, by typing. What is typed stays in the browser. */
export function Finder({ role, label, sought, onSought, onDone }: FinderProps) {
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
                  .filter((p) => p.for.includes(role) && holdsWords(p.name, text))
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
