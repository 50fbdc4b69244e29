/** The one form of every file. ESLint judges the rest. */
export default { printWidth: 100 };
