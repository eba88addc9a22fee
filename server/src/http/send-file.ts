import type { Response } from 'express';

/** Headers for an answer that is kept as a file. */
export function sendAsFile(response: Response, name: string, type: string): void {
  response.attachment(cleanName(name));
  response.setHeader('Content-Type', type);
  response.setHeader('Cache-Control', 'no-store');
}

/** A name that leads nowhere and hides nothing: without what parts a path, controls, marks that turn the direction, or a dot before it. */
export function cleanName(name: string): string {
  return name
    .normalize('NFC')
    .replaceAll(/[/\\:*?"<>|\p{Cc}\p{Cf}\p{Zl}\p{Zp}]/gu, ' ')
    .replace(/^[.\s]+/, '')
    .trim();
}
