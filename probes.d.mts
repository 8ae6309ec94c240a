import type { IncomingMessage, ServerResponse } from "node:http";

export function answersProbe(request: IncomingMessage, response: ServerResponse): boolean;
export function pathForLog(url: string | undefined): string;
