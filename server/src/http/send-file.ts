import type { Response } from 'express';

/** Headers for an answer that is kept as a file. */
export function sendAsFile(response: Response, name: string, type: string): void {
  response.attachment(name.replaceAll(/[/\\:*?"<>|]/g, ' '));
  response.setHeader('Content-Type', type);
  response.setHeader('Cache-Control', 'no-store');
}
