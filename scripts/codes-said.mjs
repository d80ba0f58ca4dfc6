import { join, relative } from 'node:path';
import { ROOT } from './workspace.mjs';

const PROJECTS = ['core', 'cycle', 'contract', 'server']
  .map((room) => `${room}/tsconfig.json`)
  .concat('web/tsconfig.app.json');

/** What says itself in every language: units, ends, files and media types. "level" is no end that is named in a text. */
const SAYS_ITSELF = /^(.{0,2}|lb|deg|N·m|lbf·ft|lbf·in|kgf·m|g·mm|oz·in|level|.*[./].*)$/;

/**
 * Codes of the record put into a text as they are stored, in English: each a line with its place. A code has a type of
 * a few fixed strings; in words it is said by `named` or by its table. Takes half a minute.
 */
export async function codesSaid() {
  // Not there before the first install.
  const { default: ts } = await import('typescript');
  return PROJECTS.flatMap((project) => {
    const { fileNames, options } = ts.getParsedCommandLineOfConfigFile(
      join(ROOT, project),
      {},
      { ...ts.sys, onUnRecoverableConfigFileDiagnostic: () => undefined },
    );
    const program = ts.createProgram(fileNames, options);
    const checker = program.getTypeChecker();
    const codesIn = (expression) => {
      const type = checker.getTypeAtLocation(expression);
      return (type.isUnion() ? type.types : [type])
        .filter((each) => each.isStringLiteral() && !SAYS_ITSELF.test(each.value))
        .map(({ value }) => value);
    };
    return program.getSourceFiles().flatMap((file) => {
      const name = relative(ROOT, file.fileName);
      if (!/^(core|cycle|contract|server|web)\/src\//.test(name) || name.endsWith('.spec.ts'))
        return [];
      const found = [];
      const look = (node) => {
        if (ts.isTaggedTemplateExpression(node) && node.tag.getText() === '$localize')
          for (const { expression } of node.template.templateSpans ?? []) {
            const codes = codesIn(expression);
            const { line } = file.getLineAndCharacterOfPosition(expression.getStart());
            if (codes.length > 0)
              found.push(
                `a code as it is stored: ${name}:${line + 1} ${expression.getText()} (${codes.join(', ')})`,
              );
          }
        ts.forEachChild(node, look);
      };
      look(file);
      return found;
    });
  });
}
