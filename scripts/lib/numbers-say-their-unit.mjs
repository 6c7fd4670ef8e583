/** A bare number says nothing: every one that an exported function takes has an `@param` with its unit or range. */
export const numbersSayTheirUnit = {
  meta: { type: "suggestion", schema: [], messages: { bare: "Say what “{{name}}” is counted in: @param {{name}}." } },
  create: (context) => ({
    "ExportNamedDeclaration > FunctionDeclaration"(node) {
      const doc = context.sourceCode.getCommentsBefore(node.parent).at(-1)?.value ?? "";
      for (const param of node.params) {
        const named = param.type === "AssignmentPattern" ? param.left : param;
        const isNumber =
          named.typeAnnotation?.typeAnnotation.type === "TSNumberKeyword" || typeof param.right?.value === "number";
        if (isNumber && !new RegExp(`@param ${named.name}\\b`).test(doc))
          context.report({ node: param, messageId: "bare", data: { name: named.name } });
      }
    },
  }),
};
