export declare const hasPostgres: () => boolean;
export declare function startPostgres(): Promise<{ readonly url: string; stop(): void }>;
