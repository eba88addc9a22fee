import { toJsonSchema } from '@valibot/to-json-schema';
import type * as v from 'valibot';
import { downloads } from './downloads.ts';
import { endpoints } from './endpoints.ts';
import { accessWords, bytesBody, fileAnswer, nothing, type Endpoint } from './endpoint.ts';
import { refusalView } from './views.ts';

/** The HTTP interface described by OpenAPI 3.1, generated from the same schemas that check it. */
export function openApiDescription(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const call of Object.values(endpoints) as Endpoint[]) {
    const path = call.path.replaceAll(/:(\w+)/g, '{$1}');
    paths[path] = { ...paths[path], [call.method]: operation(call) };
  }
  for (const { path, summary, type } of Object.values(downloads)) {
    const key = path.replaceAll(/:(\w+)/g, '{$1}');
    const responses = { 200: { description: 'The file', content: { [type]: {} } }, default: refusal };
    paths[key] = { get: { summary, parameters: pathParameters(path), responses } };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Coffer',
      version: '1',
      description: 'Schedules, closes and entries of a company’s debt.',
    },
    paths,
  };
}

const schemaOf = (schema: v.GenericSchema, typeMode: 'input' | 'output'): object =>
  toJsonSchema(schema, { errorMode: 'ignore', typeMode });

const refusal = {
  description: 'Refused: why, and where',
  content: { 'application/json': { schema: schemaOf(refusalView, 'output') } },
};

function pathParameters(path: string): object[] {
  return [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
}

function queryParameters(query: v.GenericSchema): object[] {
  const { properties = {}, required = [] } = schemaOf(query, 'input') as {
    properties?: Record<string, object>;
    required?: string[];
  };
  return Object.entries(properties).map(([name, schema]) => ({
    name,
    in: 'query',
    required: required.includes(name),
    schema,
  }));
}

const keyHeader = {
  name: 'Idempotency-Key',
  in: 'header',
  required: true,
  schema: { type: 'string', format: 'uuid' },
};

function operation(call: Endpoint): object {
  return {
    summary: call.summary,
    description: `Access: ${accessWords(call.access)}.`,
    parameters: [
      ...pathParameters(call.path),
      ...(call.query === nothing ? [] : queryParameters(call.query)),
      ...(call.idempotent ? [keyHeader] : []),
    ],
    ...(call.body !== nothing && {
      requestBody: {
        required: true,
        content:
          call.body === bytesBody
            ? { 'application/octet-stream': {} }
            : { 'application/json': { schema: schemaOf(call.body, 'input') } },
      },
    }),
    responses: {
      200: {
        description: call.answer === fileAnswer ? 'The file' : 'Done',
        content:
          call.answer === fileAnswer
            ? { 'application/octet-stream': {} }
            : { 'application/json': { schema: schemaOf(call.answer, 'output') } },
      },
      default: refusal,
    },
  };
}
