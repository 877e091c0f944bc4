import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const web = new URL('../../web/', import.meta.url);
const required = createRequire(new URL('package.json', web));

interface Node {
  text: string;
}

type Is = (node: Node) => boolean;

// What of the compiler is used here.
const ts = required('typescript') as {
  createSourceFile: (name: string, source: string, target: number, parents: boolean) => Node;
  forEachChild: (node: Node, visit: (child: Node) => void) => void;
  ScriptTarget: { ES2022: number };
} & Record<
  | 'isTypeNode'
  | 'isImportDeclaration'
  | 'isStringLiteral'
  | 'isNoSubstitutionTemplateLiteral'
  | 'isTemplateHead'
  | 'isTemplateMiddle'
  | 'isTemplateTail',
  Is
>;
const TEXTS: Is[] = [ts.isStringLiteral, ts.isNoSubstitutionTemplateLiteral, ts.isTemplateHead, ts.isTemplateMiddle, ts.isTemplateTail];

interface Template {
  type: number;
  tag?: string;
  content?: string | { content?: string };
  name?: string;
  value?: { content: string };
  exp?: { content: string };
  props?: Template[];
  children?: Template[];
  branches?: Template[];
}

const { parse } = required('@vue/compiler-sfc') as {
  parse: (source: string) => {
    descriptor: { template: { ast: Template } | null; scriptSetup: { content: string } | null; script: { content: string } | null };
  };
};

const READ = ['aria-label', 'title', 'alt', 'placeholder', 'label'];
const [TEXT, INTERPOLATION, ATTRIBUTE, DIRECTIVE] = [2, 5, 6, 7];

// Two words with a blank between them, or one that begins a sentence and is no name of something: neither a selector, nor a list of classes.
const isSaid = (text: string): boolean =>
  (/\p{L}{2,}[,;:]? \p{L}{2,}/u.test(text) && !/^\(|[[\]#>{}=]|(^|[ ,])\.\w|^input/.test(text)) || /^\p{Lu}\p{Ll}+[.…]?$/u.test(text);

// What the program is made of, and nobody reads.
const NAMES = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Enter', 'Escape', 'Quotes'];

/** The texts in a program that somebody could read. */
function inScript(source: string): string[] {
  const found: string[] = [];
  const visit = (node: Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (TEXTS.some((is) => is(node)) && !NAMES.includes(node.text) && isSaid(node.text.trim())) found.push(node.text);
    ts.forEachChild(node, visit);
  };
  visit(ts.createSourceFile('x.ts', source, ts.ScriptTarget.ES2022, true));
  return found;
}

function inTemplate(node: Template): string[] {
  const own: string[] = [];
  const said = (text: string) => (/\p{L}{2,}/u.test(text) ? [text.trim()] : []);
  if (node.type === TEXT) own.push(...said(String(node.content)));
  if (node.type === INTERPOLATION) own.push(...inScript(`(${(node.content as { content: string }).content})`));
  for (const prop of node.props ?? []) {
    if (prop.type === ATTRIBUTE && READ.includes(prop.name!)) own.push(...said(prop.value?.content ?? ''));
    if (prop.type === DIRECTIVE && prop.name === 'bind' && prop.exp) own.push(...inScript(`(${prop.exp.content})`));
  }
  return [...own, ...(node.children ?? []).flatMap(inTemplate), ...(node.branches ?? []).flatMap(inTemplate)];
}

/** The texts that stand in the pages themselves, and not in the table of what the shop says; by the file that they stand in. */
export function saidBeside(folders: string[]): Record<string, string[]> {
  const found: Record<string, string[]> = {};
  for (const folder of folders) {
    for (const name of readdirSync(new URL(folder, web), { recursive: true, encoding: 'utf8' }).filter((n) => /\.(vue|ts)$/.test(n))) {
      const source = readFileSync(new URL(`${folder}/${name}`, web), 'utf8');
      const { template, scriptSetup, script } = name.endsWith('.vue')
        ? parse(source).descriptor
        : { template: null, scriptSetup: { content: source }, script: null };
      const texts = [
        ...(template ? inTemplate(template.ast) : []),
        ...inScript(scriptSetup?.content ?? ''),
        ...inScript(script?.content ?? ''),
      ];
      if (texts.length) found[`${folder}/${name}`] = texts;
    }
  }
  return found;
}
