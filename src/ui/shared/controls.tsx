'use client';

import { forwardRef, type ChangeEventHandler, type ComponentProps, type SyntheticEvent } from 'react';
import {
  Button as PlainButton,
  Form as PlainForm,
  type ButtonProps,
  type FormCheckProps,
  type FormControlProps,
  type FormSelectProps,
} from 'react-bootstrap';

/**
 * What cannot be used at the moment says so (aria-disabled) and does nothing, but is never switched off: the browser
 * takes the focus from a control that is switched off, and who works by keyboard or by ear is thrown to the top of the
 * page after every press.
 */
const held = (event: SyntheticEvent): void => {
  event.preventDefault();
  event.stopPropagation();
};

export const Button = forwardRef<HTMLButtonElement, ButtonProps>(function Button(
  { disabled = false, onClick, 'aria-disabled': said, ...rest },
  ref,
) {
  return (
    <PlainButton
      ref={ref}
      {...rest}
      aria-disabled={disabled || said || undefined}
      onClick={disabled ? held : onClick}
    />
  );
});

/** A button with a form of its own. */
export const Press = forwardRef<HTMLButtonElement, ComponentProps<'button'>>(function Press(
  { disabled = false, onClick, ...rest },
  ref,
) {
  return (
    <button
      type="button"
      ref={ref}
      {...rest}
      aria-disabled={disabled || undefined}
      onClick={disabled ? held : onClick}
    />
  );
});

const Check = forwardRef<HTMLInputElement, FormCheckProps>(function Check(
  { disabled = false, onChange, ...rest },
  ref,
) {
  return (
    <PlainForm.Check ref={ref} {...rest} aria-disabled={disabled || undefined} onChange={disabled ? held : onChange} />
  );
});

const Select = forwardRef<HTMLSelectElement, FormSelectProps>(function Select(
  { disabled = false, onChange, ...rest },
  ref,
) {
  return (
    <PlainForm.Select ref={ref} {...rest} aria-disabled={disabled || undefined} onChange={disabled ? held : onChange} />
  );
});

type TextProps = FormControlProps &
  Omit<ComponentProps<'input'>, keyof FormControlProps> & {
    onChange?: ChangeEventHandler<HTMLInputElement>;
    rows?: number;
  };

/** A field that cannot be used now can still be read, and its text copied. */
const Control = forwardRef<HTMLInputElement, TextProps>(function Control({ disabled = false, ...rest }, ref) {
  return (
    <PlainForm.Control ref={ref} {...rest} aria-disabled={disabled || undefined} readOnly={disabled || rest.readOnly} />
  );
});

const { Group, Label, Range } = PlainForm;

export const Form = Object.assign((props: ComponentProps<'form'>) => <form {...props} />, {
  Check,
  Control,
  Group,
  Label,
  Range,
  Select,
});
