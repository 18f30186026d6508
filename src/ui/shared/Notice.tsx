import { CircleAlert, CircleCheckBig, CircleDashed, Info, OctagonX, X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Failure } from '@/core';
import { Button } from '@/ui/shared/controls';

const ICONS = { wrong: CircleAlert, good: CircleCheckBig, note: Info };
const WEIGHTS = { stops: OctagonX, light: CircleDashed };

interface NoticeProps {
  level: 'wrong' | 'good' | 'note';
  /** Of what is wrong: it stops the game, or can be lived with. */
  weight?: 'stops' | 'light' | undefined;
  title: string;
  children?: ReactNode;
  action?: ReactNode;
  onDismiss?: (() => void) | undefined;
  /** By which an address leads to it. */
  id?: string;
}

/** Something to know: what it is, and what to do about it. */
export function Notice({ level, weight, title, children, action, onDismiss, id }: NoticeProps) {
  const Icon = weight === undefined ? ICONS[level] : WEIGHTS[weight];
  return (
    <div
      className={`notice ${level} ${weight ?? ''}`}
      role={level === 'wrong' && weight !== 'light' ? 'alert' : 'status'}
      {...(id ? { id, tabIndex: -1 } : {})}
    >
      <Icon size={19} aria-hidden />
      <div className="grow">
        <strong>{title}</strong>
        {children}
      </div>
      {action}
      {onDismiss && (
        <Button variant="link" size="sm" className="p-0" onClick={onDismiss} aria-label="Close this message">
          <X size={18} aria-hidden />
        </Button>
      )}
    </div>
  );
}

/** A failure: its sentence, and what to do next. */
export function FailureNotice({ failure, onDismiss }: { failure: Failure; onDismiss?: () => void }) {
  return (
    <Notice level={failure.code === 'cancelled' ? 'note' : 'wrong'} title={failure.says} onDismiss={onDismiss}>
      <p>{failure.next}</p>
    </Notice>
  );
}
