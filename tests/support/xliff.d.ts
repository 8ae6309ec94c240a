declare module "xliff" {
  export interface Resources {
    readonly [file: string]: Readonly<Record<string, { readonly source: string; readonly target?: string }>>;
  }
  export function xliff2js(
    text: string,
  ): Promise<{ readonly sourceLanguage: string; readonly targetLanguage: string; readonly resources: Resources }>;
  export function js2xliff(given: {
    readonly resources: Resources;
    readonly sourceLanguage: string;
    readonly targetLanguage: string;
  }): Promise<string>;
}
