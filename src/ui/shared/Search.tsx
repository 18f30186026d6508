import { Form } from 'react-bootstrap';

/** A field that narrows down what is shown. */
export function Search(props: { label: string; value: string; onChange(value: string): void }) {
  const { label, value, onChange } = props;
  return (
    <Form.Control
      size="sm"
      type="search"
      placeholder={label}
      aria-label={label}
      style={{ maxWidth: '18rem' }}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
