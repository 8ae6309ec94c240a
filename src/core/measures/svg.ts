import { heightOf, placesIn, type Frame, type Trend } from "./trend";
import { instantMs } from "../shared";

const [width, height] = [760, 380];
const frame: Frame = { left: 56, top: 44, width: 560, height: 268 };
const ink = "#23262B";
const soft = "#6B655B";
const rule = "#C9BFAE";
const plum = "#6A3459";
const clay = "#A8471F";

const escaped = (text: string): string =>
  text
    .replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`)
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, "");
const round = (n: number): string => String(Math.round(n * 100) / 100);
const text = (x: number, y: number, words: string, more = ""): string =>
  `<text x="${round(x)}" y="${round(y)}" fill="${ink}" ${more}>${escaped(words)}</text>`;
const line = (x1: number, y1: number, x2: number, y2: number, more: string): string =>
  `<line x1="${round(x1)}" y1="${round(y1)}" x2="${round(x2)}" y2="${round(y2)}" ${more}/>`;

/**
 * The plot as a picture that stays sharp in print (SVG 1.1), with its sentence as description. No script, no address,
 * nothing from elsewhere.
 */
export function trendSvg(trend: Trend, says: string, dayOf: (at: Trend["points"][number]["at"]) => string): string {
  const places = placesIn(trend, frame);
  const at = (value: number): number => heightOf(value, trend, frame);
  const right = frame.left + frame.width;
  const bottom = frame.top + frame.height;
  const parts: string[] = [text(frame.left, 24, trend.title, 'font-size="17" font-weight="bold"')];
  if (trend.corridor) {
    const [low, high] = trend.corridor;
    parts.push(
      `<rect x="${frame.left}" y="${round(at(high))}" width="${frame.width}" height="${round(at(low) - at(high))}" fill="${plum}" fill-opacity="0.1"/>`,
    );
  }
  for (const zone of trend.zones) {
    parts.push(line(frame.left, at(zone.high), right, at(zone.high), `stroke="${rule}"`));
    parts.push(text(right + 8, (at(zone.low) + at(zone.high)) / 2 + 4, zone.label, 'font-size="12"'));
  }
  if (trend.cutoff) {
    const height = at(trend.cutoff.value);
    parts.push(line(frame.left, height, right, height, `stroke="${clay}" stroke-dasharray="6 4"`));
  }
  parts.push(line(frame.left, bottom, right, bottom, `stroke="${soft}"`));
  parts.push(line(frame.left, frame.top, frame.left, bottom, `stroke="${soft}"`));
  for (const value of [trend.least, trend.most])
    parts.push(text(frame.left - 8, at(value) + 4, round(value), 'font-size="12" text-anchor="end"'));
  const [first, last] = [trend.points[0], trend.points.at(-1)];
  if (first && last) {
    const span = Math.max(1, instantMs(last.at) - instantMs(first.at));
    for (const moment of trend.moments) {
      const across = frame.left + ((instantMs(moment.at) - instantMs(first.at)) / span) * frame.width;
      const isEvent = moment.kind === "event";
      parts.push(
        line(across, isEvent ? frame.top : bottom - 6, across, bottom, `stroke="${soft}" stroke-dasharray="2 3"`),
      );
      if (isEvent) parts.push(text(across + 3, frame.top + 12, moment.words, 'font-size="11"'));
    }
    parts.push(text(places[0]!.x, bottom + 20, dayOf(first.at), 'font-size="12" text-anchor="middle"'));
    if (first !== last)
      parts.push(text(places.at(-1)!.x, bottom + 20, dayOf(last.at), 'font-size="12" text-anchor="middle"'));
  }
  places.forEach((place, index) => {
    const next = places[index + 1];
    const gap = trend.gaps.includes(index);
    if (next && !gap) parts.push(line(place.x, place.y, next.x, next.y, `stroke="${plum}" stroke-width="2"`));
    parts.push(`<circle cx="${round(place.x)}" cy="${round(place.y)}" r="4" fill="${plum}"/>`);
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" role="img" aria-labelledby="title says" font-family="Atkinson Hyperlegible Next, sans-serif">`,
    `<title id="title">${escaped(trend.title)}</title>`,
    `<desc id="says">${escaped(says)}</desc>`,
    `<rect width="${width}" height="${height}" fill="#FBF8F2"/>`,
    ...parts,
    text(frame.left, height - 16, says.length > 110 ? `${says.slice(0, 107)}…` : says, 'font-size="12"'),
    "</svg>",
  ].join("\n");
}
