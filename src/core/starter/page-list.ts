/** A list of pages to make, as a YAML file: `pages`, each a path, or a path with a title and a description. */
import { IsArray, IsNotEmpty, IsOptional, IsString } from 'class-validator';
import { inOneLine } from '../page/naming.ts';
import { readYaml, shapeWithin } from '../shape/yaml.ts';

/** A page that is asked for, by its path as people give it. */
export class ListedPage {
  @IsString()
  @IsNotEmpty()
  path!: string;

  @IsOptional()
  @IsString()
  title?: string;

  @IsOptional()
  @IsString()
  description?: string;
}

class PageList {
  @IsArray()
  pages!: unknown[];
}

/** Reads a list; throws a `CravelError` naming the line of everything that is wrong. */
export function readPageList(text: string, file: string): ListedPage[] {
  const yaml = readYaml(text, file, PageList);
  const pages: ListedPage[] = [];
  const all = Array.isArray(yaml.value.pages) ? yaml.value.pages : [];
  for (const [index, plain] of all.entries()) {
    const place = ['pages', String(index)];
    const page = shapeWithin(yaml, place, ListedPage, typeof plain === 'string' ? { path: plain } : plain);
    if (page === null) continue;
    for (const key of ['title', 'description'] as const) {
      const said = page[key];
      if (said !== undefined && (inOneLine(said) === '' || /\p{Cc}/u.test(inOneLine(said))))
        yaml.tell([...place, key], `${key} must say something, in one line`);
      else if (said !== undefined) page[key] = inOneLine(said);
    }
    pages.push(page);
  }
  yaml.done();
  return pages;
}
