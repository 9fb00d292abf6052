/** One thing wrong with a file or a field: where it is, what is wrong, what would be right. */
export interface FileProblem {
  file: string;
  line: number;
  field: string;
  problem: string;
  expected: string;
}
