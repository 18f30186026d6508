import { narrowerFiles } from '@/core';
import type { SettingsFileView } from '../contract';
import type { Session } from '../game/session';
import { wantedIn } from '../game/wanted';
import { numberedView } from './numberedView';
import { searchView } from './searchView';

export function settingsViews(session: Session): SettingsFileView[] {
  return session.picture.settingsFiles.map((file): SettingsFileView => {
    const document = session.picture.settings.get(file.target);
    const coming = session.picture.coming.get(file.target);
    return {
      target: file.target,
      title: file.title,
      there: document !== undefined,
      known: file.keys.length,
      total: document?.entries().length ?? 0,
      edits: wantedIn(session, file.target).size,
      dialect: file.dialect,
      coming: coming && session.nameOf(coming.layer),
      readOnly: session.picture.readOnly.has(file.target),
      over: file.over,
      narrower: narrowerFiles(session.picture.settingsFiles, file.target).map(({ target, title }) => ({
        target,
        title,
      })),
      numbered: numberedView(session, file),
      search: searchView(session, file),
      own: session.stack.ownFiles.some(({ target }) => target === file.target)
        ? { on: session.stack.layers.find((layer) => layer.kind === 'edits' && layer.file === file.target)?.on ?? true }
        : undefined,
    };
  });
}
