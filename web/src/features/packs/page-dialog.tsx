import { LONGEST_PAGE_NOTE, type PackPage } from '@zawn/core';
import { Form, Input, Modal } from 'antd';
import { useState } from 'react';

interface Props {
  page: PackPage;
  /** What it is called without a title. */
  name: string;
  save: (page: PackPage) => void;
  close: () => void;
}

/** Changes what a page is called, and of a note what it says. */
export function PageDialog({ page, name, save, close }: Props) {
  const [title, setTitle] = useState(page.title ?? '');
  const [text, setText] = useState(page.kind === 'note' ? page.text : '');
  const isReady = page.kind !== 'note' || text.trim() !== '';
  const done = () => {
    const { title: _before, ...rest } = page;
    const named = title.trim() ? { title: title.trim() } : {};
    save(
      (page.kind === 'note' ? { ...rest, ...named, text: text.trim() } : { ...rest, ...named }) as PackPage,
    );
    close();
  };
  return (
    <Modal
      open
      title="Change the page"
      okText="Save"
      okButtonProps={{ disabled: !isReady }}
      onOk={done}
      onCancel={close}
      width={460}
    >
      <Form layout="vertical" onSubmitCapture={done}>
        <Form.Item label="Title" htmlFor="page-title">
          <Input
            id="page-title"
            maxLength={80}
            placeholder={name}
            value={title}
            onChange={(event) => setTitle(event.target.value)}
          />
        </Form.Item>
        {page.kind === 'note' && (
          <Form.Item label="What it says" htmlFor="page-text">
            <Input.TextArea
              id="page-text"
              autoFocus
              maxLength={LONGEST_PAGE_NOTE}
              autoSize={{ minRows: 4, maxRows: 14 }}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </Form.Item>
        )}
      </Form>
    </Modal>
  );
}
