/** What core gives to others says what it is: meaning and unit stand in a docstring right above it. */
const documented = {
  create: ({ report, sourceCode }) => ({
    ExportNamedDeclaration(node) {
      if (!node.declaration || node.parent.type !== 'Program') return;
      const above = sourceCode.getCommentsBefore(node).at(-1);
      if (!above?.value.startsWith('*')) report({ node, message: 'Say in a docstring what this is, with its unit and range.' });
    },
  }),
};

export default { meta: { name: 'ours' }, rules: { documented } };
