import * as v from 'valibot';
import { shortText } from '../document/scalars.ts';
import { bundleKept, mostBundleBytes } from './bundle-views.ts';
import { bytesBody, endpoint, fileBound } from './endpoint.ts';

/** Companies that are brought whole. */
export const bundleEndpoints = {
  keepBundle: endpoint(
    'post',
    '/api/companies/bundle',
    'Make a company of everything that another installation had of it, all or none; for administrators of any company',
    'administrator',
    {
      query: v.strictObject({ name: v.optional(shortText) }),
      body: bytesBody,
      most: fileBound(mostBundleBytes),
      long: true,
      answer: bundleKept,
    },
  ),
} as const;
