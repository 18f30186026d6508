'use client';

import { useGame } from '@/ui/engine';
import { Form } from '@/ui/shared/controls';
import { many, place } from '@/ui/shared/format';
import type { SettingsFileView } from '@/worker/contract';

/** Which settings file is looked at, and what it is. */
export function FileChooser({
  file,
  onFile,
}: {
  file: SettingsFileView;
  onFile(target: SettingsFileView['target']): void;
}) {
  const { settings, roots } = useGame();
  const over = settings.find(({ target }) => target === file.over);
  return (
    <>
      <Form.Select
        size="sm"
        aria-label="Settings file"
        value={file.target}
        style={{ width: 'auto' }}
        onChange={(event) => {
          const found = settings.find((one) => one.target === event.target.value);
          if (found) onFile(found.target);
        }}
      >
        {settings.map((one) => (
          <option key={one.target} value={one.target}>
            {one.title}
            {one.edits > 0 ? ` (${many(one.edits, 'edit')})` : ''}
          </option>
        ))}
      </Form.Select>
      <span className="quiet small grow">
        <span className="path">{place(file.target, roots)}</span>:{' '}
        {file.there
          ? `${many(file.total, 'key')}${file.known > 0 ? `, ${file.known} known to the app` : ''}`
          : 'not there yet; the first edit makes it'}
        .{' '}
        {file.coming === undefined
          ? 'Only single values are ever changed in it.'
          : `“${file.coming}” brings one of its own, which takes its place; your edits go into that.`}
        {over && ` What stands here counts more than the same key in “${over.title}”.`}
        {file.narrower.length > 0 && ` ${file.narrower.map(({ title }) => `“${title}”`).join(', ')} can say otherwise.`}
      </span>
    </>
  );
}
