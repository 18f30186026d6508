'use client';

import { Upload } from 'lucide-react';
import { useState, type RefObject } from 'react';
import { Button } from 'react-bootstrap';

/** The place to drop downloads on, with a button for those who would rather choose. */
export function DropPlace({ input, onFiles }: { input: RefObject<HTMLInputElement | null>; onFiles(files: File[]): void }) {
  const [over, setOver] = useState(false);
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
        onFiles([...event.dataTransfer.files]);
      }}
    >
      <Upload size={24} aria-hidden className="quiet" />
      <p className="my-1">
        <strong>Drop a ZIP here</strong>
      </p>
      <Button variant="outline-primary" size="sm" onClick={() => input.current?.click()}>
        Choose a file
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Choose a download"
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = '';
        }}
      />
    </section>
  );
}
