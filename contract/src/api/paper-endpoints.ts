import * as v from 'valibot';
import { bytesBody, endpoint, fileBound } from './endpoint.ts';
import { instrumentId } from './ids.ts';
import { mostPaperBytes, paperId, paperName, papersView, paperView, takeAwayBody } from './paper-views.ts';
import { preparing } from './permissions.ts';

const ofInstrument = v.strictObject({ id: instrumentId });

/** The files that are kept at an instrument. */
export const paperEndpoints = {
  papers: endpoint(
    'get',
    '/api/instruments/:id/papers',
    'The papers of an instrument, the newest first',
    'member',
    {
      params: ofInstrument,
      answer: papersView,
    },
  ),
  keepPaper: endpoint(
    'post',
    '/api/instruments/:id/papers',
    'Keep a PDF, PNG or JPEG of up to 25 MB at an instrument; the same file is kept once',
    preparing,
    {
      params: ofInstrument,
      query: v.strictObject({ name: paperName }),
      body: bytesBody,
      most: fileBound(mostPaperBytes),
      answer: paperView,
    },
  ),
  takePaperAway: endpoint(
    'post',
    '/api/instruments/:id/papers/:paper/taken-away',
    'Take a paper away from an instrument, with the reason; that it was there stays in the audit trail',
    preparing,
    {
      params: v.strictObject({ id: instrumentId, paper: paperId }),
      body: takeAwayBody,
      answer: v.strictObject({}),
    },
  ),
} as const;
