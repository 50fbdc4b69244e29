/** What a function that answers a request is given or returns. Only such a function may end the request. */
const REQUEST = /^(Request|HonoContext|FileRequest)\b/;
const ANSWER = /^Promise<(Answer<|Response\b)/;

/**
 * Forbids what makes refusals as values unsafe: to call something that can refuse and overlook what it returns, and to
 * throw a `Refusal` anywhere but where a request is answered. Needs type information.
 */
export const useRefusals = {
  meta: {
    type: "problem",
    schema: [],
    messages: {
      overlooked:
        "This can be refused. Look at what it returns: `refuse(…)` or `orRefuse(…)` where a request is answered, else return the refusal.",
      thrown:
        "Only a function that answers a request throws a Refusal. Return `refused(…)`; whoever answers the request throws it.",
    },
  },
  create(context) {
    const { parserServices } = context.sourceCode;
    const checker = parserServices.program.getTypeChecker();
    const canBeRefused = (node) => {
      const type = checker.getAwaitedType(parserServices.getTypeAtLocation(node));
      const parts = type === undefined ? [] : type.isUnion() ? type.types : [type];
      return parts.some((part) => part.symbol?.name === "Refused");
    };
    const typeOf = (annotation) =>
      annotation ? context.sourceCode.getText(annotation.typeAnnotation) : "";
    const answersRequest = ({ params, returnType }) =>
      ANSWER.test(typeOf(returnType)) ||
      params.some(({ typeAnnotation }) => REQUEST.test(typeOf(typeAnnotation)));
    const refuseElsewhere = (node) => {
      const around = context.sourceCode.getAncestors(node).filter(({ params }) => params);
      if (!around.some(answersRequest)) context.report({ node, messageId: "thrown" });
    };
    return {
      ExpressionStatement({ expression }) {
        if (canBeRefused(expression)) context.report({ node: expression, messageId: "overlooked" });
      },
      "NewExpression[callee.name='Refusal']": refuseElsewhere,
      "CallExpression[callee.name='notFound']": refuseElsewhere,
    };
  },
};
