'use client';

import { Upload } from 'lucide-react';
import { useRef, useState, type RefObject } from 'react';
import type { ArchivePart } from '@/core';
import { Button } from '@/ui/shared/controls';
import { chosenFiles, droppedFiles } from './dropped';

/** The browser's own choice of files, behind a button of the page. */
function HiddenInput({
  input,
  label,
  onChosen,
  ...rest
}: {
  input: RefObject<HTMLInputElement | null>;
  label: string;
  multiple?: boolean;
  onChosen(element: HTMLInputElement): void;
}) {
  return (
    <input ref={input} type="file" hidden aria-label={label} onChange={(event) => onChosen(event.target)} {...rest} />
  );
}

/** The place to drop downloads on, with buttons for those who would rather choose. */
export function DropPlace({
  input,
  onFiles,
}: {
  input: RefObject<HTMLInputElement | null>;
  onFiles(files: ArchivePart[]): void;
}) {
  const [over, setOver] = useState(false);
  const folder = useRef<HTMLInputElement>(null);
  const take = (element: HTMLInputElement) => {
    const files = chosenFiles(element.files);
    element.value = '';
    if (files.length > 0) onFiles(files);
  };
  return (
    <section
      className={`drop ${over ? 'over' : ''}`}
      aria-label="Drop a download here"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void droppedFiles(event.dataTransfer).then((files) => files.length > 0 && onFiles(files));
      }}
    >
      <Upload size={24} aria-hidden className="quiet" />
      <p className="my-1">
        <strong>Drop a download here</strong>
        <br />
        <span className="small quiet">
          ZIP, 7z, RAR or tar, a folder, or single files. All parts of a split one together.
        </span>
      </p>
      <div className="row-of justify-content-center">
        <Button variant="outline-primary" size="sm" onClick={() => input.current?.click()}>
          Choose files
        </Button>
        <Button variant="outline-primary" size="sm" onClick={() => folder.current?.click()}>
          Choose a folder
        </Button>
      </div>
      <HiddenInput input={input} label="Choose downloads" multiple onChosen={take} />
      <HiddenInput input={folder} label="Choose an unpacked download" {...{ webkitdirectory: '' }} onChosen={take} />
    </section>
  );
}
