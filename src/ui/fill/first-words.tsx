"use client";
import { dateWords } from "@/core/questionnaire";
import { dateFormat, instantMs, type Instant } from "@/core/shared";
import { Button } from "@/ui/kit/button";
import { Notice } from "@/ui/kit/notice";
import { useTimeFrame } from "@/ui/kit/time";
import { Note } from "./layout";
import { usePage } from "./page";

const dayWords = (at: Instant, locale: string, zone: string): string =>
  dateFormat(locale, { dateStyle: "long", timeZone: zone }).format(instantMs(at));
/** What is said on the first page only. `putBack`: everything was cleared a moment ago. */
export function FirstWords({ putBack }: { readonly putBack: (() => void) | undefined }) {
  const { words, view, server } = usePage();
  const { locale, zone } = useTimeFrame();
  const { leaflets = [], people = [], role, shared, personalLine, recallSince, dueOn } = view;
  const fills = role !== "reads";
  const others = [...new Set(people.filter((p) => !p.own).map((p) => p.name))];
  return (
    <>
      {personalLine && <p dir="auto">“{personalLine}”</p>}
      {fills && recallSince && (
        <p>
          <strong>{words("recallSince", { day: dayWords(recallSince, locale, zone) })}</strong>
        </p>
      )}
      {leaflets.length > 0 && server.leaflet && (
        <div>
          <p>{words("leaflets")}</p>
          <ul>
            {leaflets.map((leaflet) => (
              <li key={leaflet.id}>
                <a href={server.leaflet!(leaflet.id)} dir="auto">
                  {leaflet.title}
                </a>
              </li>
            ))}
          </ul>
        </div>
      )}
      {shared && fills && <Note>{words("shared", { names: others.join(", ") })}</Note>}
      {fills && (
        <Note>
          {words("startNote")}
          {dueOn ? ` ${words("wantedBy", { day: dateWords(dueOn, locale) })}` : ""}
        </Note>
      )}
      {putBack && (
        <Notice>
          {words("cleared")}{" "}
          <Button weight="quiet" onPress={putBack}>
            {words("putBack")}
          </Button>
        </Notice>
      )}
    </>
  );
}
