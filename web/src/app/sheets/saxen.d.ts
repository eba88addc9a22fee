/** What is used of a reader of XML that has no types of its own. */
declare module 'saxen' {
  export class Parser {
    on(
      event: 'openTag',
      callback: (
        name: string,
        attributes: () => Readonly<Record<string, string>>,
        decoded: (text: string) => string,
      ) => void,
    ): this;
    on(event: 'error', callback: (error: Error) => void): this;
    write(xml: string): this;
  }
}
