import { Form } from '@/ui/shared/controls';

interface SearchProps {
  label: string;
  /** What stands in it while it is empty, where the label says more than there is room for. */
  hint?: string;
  value: string;
  onChange(value: string): void;
}

/** A field that narrows down what is shown. */
export function Search({ label, hint = label, value, onChange }: SearchProps) {
  return (
    <Form.Control
      size="sm"
      type="search"
      placeholder={hint}
      aria-label={label}
      style={{ maxWidth: '18rem' }}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
