'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Finding, Fix } from '@/core';
import { useEngine, useGame } from '@/ui/engine';
import { Button, Form } from '@/ui/shared/controls';
import { Notice } from '@/ui/shared/Notice';
import { Tag } from '@/ui/shared/Tag';
import { useDraft } from '@/ui/shared/useDraft';
import { useEscape } from '@/ui/shared/useEscape';
import { useFollow } from '@/ui/shared/useFollow';

/**
 * One finding: what was seen, why, and the cures. A cure changes the layers; the plan shows it before anything is
 * written.
 */
export function FindingNotice({ finding, canSetAside = false }: { finding: Finding; canSetAside?: boolean }) {
  const { act, busy } = useEngine();
  const { switches, packs } = useGame();
  const router = useRouter();
  const follow = useFollow();
  const [noting, setNoting] = useState(false);
  useEscape(noting ? () => setNoting(false) : undefined);
  const [note, setNote] = useState('');
  const { offer: kept, done: forget } = useDraft(`why ${finding.id} is harmless`, note, note.trim() === '', (text) => {
    setNote(text);
    setNoting(true);
  });
  const { fixes, level } = finding;
  const [first] = fixes;
  const pending =
    first?.kind === 'edit' &&
    switches.some(
      (one) => one.pending && one.file === first.file && one.path.join('\n') === first.edit.path.join('\n'),
    );
  const tag = packs.find(({ layer }) => layer === finding.layer)?.tag;
  const apply = async (fix: Fix) => {
    if (fix.kind === 'go') return router.push(`/game/${fix.step}`);
    const go = follow('/game/deploy');
    const done = await act(async (engine) => {
      if (fix.kind !== 'deploy' && !(pending && fix === first)) await engine.change({ do: 'fix', fix });
      return true;
    });
    if (done) go();
  };
  return (
    <Notice
      id={finding.id}
      level={level}
      title={finding.title}
      action={
        <span className="stackup align-items-end" style={{ gap: '0.3rem' }}>
          {fixes.map((fix, i) => (
            <Button
              key={fix.label}
              size="sm"
              variant={level === 'wrong' && i === 0 ? 'primary' : 'outline-primary'}
              disabled={busy}
              onClick={() => void apply(fix)}
            >
              {pending && i === 0 ? 'Look at the plan' : fix.label}
            </Button>
          ))}
        </span>
      }
    >
      <p>
        {tag && <Tag tag={tag} name={packs.find(({ layer }) => layer === finding.layer)?.name ?? ''} />}{' '}
        {pending ? 'Its edit waits in the plan.' : finding.cause}
      </p>
      <p className="small quiet path">{finding.evidence}</p>
      {canSetAside && level === 'wrong' && finding.id.startsWith('log:') && !noting && (
        <Button variant="link" size="sm" className="p-0" onClick={() => setNoting(true)}>
          It is harmless…
        </Button>
      )}
      <Link className="small ms-2" href={`/game/check?finding=${encodeURIComponent(finding.id)}`}>
        Link to this
      </Link>
      {kept}
      {noting && (
        <Form
          className="row-of mt-1"
          onSubmit={(event) => {
            event.preventDefault();
            void act((engine) =>
              engine.change({ do: 'set aside', id: finding.id, says: finding.title, note }).then(forget),
            );
          }}
        >
          <Form.Control
            size="sm"
            autoFocus
            aria-label="Why it is harmless"
            placeholder="Why?"
            value={note}
            maxLength={300}
            onChange={(event) => setNote(event.target.value)}
            style={{ maxWidth: '24rem' }}
          />
          <Button size="sm" type="submit" variant="outline-secondary" disabled={busy}>
            Set it aside
          </Button>
        </Form>
      )}
    </Notice>
  );
}
