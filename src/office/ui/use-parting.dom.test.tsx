import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { inOffice } from '../testing';
import { SettingFields } from '../bench/setting-fields';
import { useParting } from './use-parting';

afterEach(cleanup);

function Waiting({ word, said }: { word: string; said: (word: string) => void }) {
  useParting(() => said(word));
  return null;
}

describe('a view that goes', () => {
  it('says its last word when it is taken down', () => {
    const said = vi.fn();
    const { rerender, unmount } = render(<Waiting word="first" said={said} />);
    rerender(<Waiting word="last" said={said} />);
    expect(said).not.toHaveBeenCalled();
    unmount();
    expect(said.mock.calls).toEqual([['last']]);
  });

  it('and when its page is left for another, which takes nothing down', () => {
    const said = vi.fn();
    render(<Waiting word="last" said={said} />);
    fireEvent(window, new Event('pagehide'));
    expect(said.mock.calls).toEqual([['last']]);
  });
});

describe('a text of a widget', () => {
  const fields = [{ key: 'label', label: 'Words on the button', as: 'text' }] as const;
  function typed() {
    const saved = vi.fn();
    const none = { goods: [], categories: [], former: {}, pictures: [] };
    inOffice(<SettingFields fields={fields} values={{ label: 'Buy' }} onChange={saved} {...none} />);
    const field = screen.getByLabelText('Words on the button');
    fireEvent.change(field, { target: { value: 'Take it home' } });
    expect(saved).not.toHaveBeenCalled();
    return { field, saved };
  }

  it('is kept when its field is left before the pause is over', () => {
    const { field, saved } = typed();
    fireEvent.blur(field);
    expect(saved.mock.calls).toEqual([[{ label: 'Take it home' }]]);
  });

  it('and when the page is', () => {
    const { saved } = typed();
    fireEvent(window, new Event('pagehide'));
    expect(saved.mock.calls).toEqual([[{ label: 'Take it home' }]]);
  });
});
