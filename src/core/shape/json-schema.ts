/** Pieces of JSON Schema (2020-12) that the shipped schemas are made of. */

export const DIALECT = 'https://json-schema.org/draft/2020-12/schema';
export const text = { type: 'string' } as const;
export const texts = { type: 'array', items: text } as const;

/** An object with these members and no others. */
export function object(properties: Readonly<Record<string, object>>, required: readonly string[] = []) {
  return {
    type: 'object',
    additionalProperties: false,
    properties,
    ...(required.length > 0 ? { required } : {}),
  };
}

export function described(description: string, schema: object): object {
  return { description, ...schema };
}
