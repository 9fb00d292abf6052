/** What every control of a form takes: what it holds, and what is read out of it. */
export interface Control<T> {
  id: string;
  label: string;
  value: T;
  onChange: (value: T) => void;
  onBlur?: () => void;
  disabled: boolean;
  invalid: boolean;
  /** Where its hint or fault stands. */
  describedBy: string;
}
