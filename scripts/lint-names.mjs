/** ESLint's own rule: a name says what it holds. One letter is enough only where all of its use is at a glance. */
const mostLines = 8;
/** `t` translates, in every catalogue of the trade; `_` is not used. */
const known = new Set(["_", "t"]);

const linesOf = (node) => node.loc.end.line - node.loc.start.line + 1;
function isShort(node) {
  for (let around = node; around; around = around.parent) {
    if (around.type === "ArrowFunctionExpression") return linesOf(around) <= mostLines;
    if (around.type === "FunctionDeclaration" || around.type === "FunctionExpression") return false;
  }
  return false;
}

const rule = {
  meta: { type: "suggestion", schema: [], messages: { short: "“{{name}}” says nothing about what it holds." } },
  create: (context) => ({
    "Program:exit"(program) {
      const scopes = [context.sourceCode.getScope(program)];
      for (const scope of scopes) {
        scopes.push(...scope.childScopes);
        for (const { name, defs } of scope.variables) {
          const [definition] = defs;
          if (name.length > 1 || known.has(name) || !definition || definition.type === "Type") continue;
          if (!isShort(definition.name.parent))
            context.report({ node: definition.name, messageId: "short", data: { name } });
        }
      }
    },
  }),
};
export default rule;
