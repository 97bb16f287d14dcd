import { Plus, X } from 'lucide-react';
import type { TillView } from '../../services/till/try-cart';
import { Choice, TextField, Tick } from '../goods/fields';
import { Foot } from './fields';
import type { Part } from './use-till';

/** What the checkout asks for beside the address, what buyers agree to, and the owner's words at its ends. */
export function CheckoutEditor({ part, view }: { part: Part<'checkout'>; view: TillView }) {
  const { draft: c, set } = part;
  const put = (change: Partial<typeof c>) => set({ ...c, ...change });
  const policy = (n: number, change: Partial<(typeof c.policies)[number]>) =>
    put({ policies: c.policies.map((p, i) => (i === n ? { ...p, ...change } : p)) });
  return (
    <section className="tedit" aria-label="Checkout">
      <header>
        <h1>Checkout</h1>
      </header>
      <div className="g-row">
        <Tick checked={c.note} onChange={(note) => put({ note })}>
          Buyers may write a note
        </Tick>
        <Tick checked={c.company} onChange={(company) => put({ company })}>
          A field for a company
        </Tick>
      </div>
      <div className="g-3">
        <Choice
          label="Telephone"
          value={c.phone}
          options={[
            ['no', 'is not asked for'],
            ['may', 'may be left empty'],
            ['must', 'has to be written'],
          ]}
          onChange={(phone) => put({ phone })}
        />
      </div>
      <p className="note">
        Which parts an address has follows its country; postcodes are checked where their form is known.
      </p>
      <div className="rh">
        <h2>What buyers agree to</h2>
        <span className="note">Each order keeps the version that was ticked</span>
      </div>
      {c.policies.map((p, n) => (
        <div key={p.id} className="rg">
          <div className="rh">
            <input
              className="gname"
              aria-label={`Name of text ${n + 1}`}
              value={p.name}
              maxLength={80}
              onChange={(e) => policy(n, { name: e.target.value })}
            />
            <button
              type="button"
              className="btn sm quiet beet"
              aria-label={`Take ${p.name} away`}
              onClick={() => put({ policies: c.policies.filter((_, i) => i !== n) })}
            >
              <X size={12} aria-hidden />
            </button>
          </div>
          <Choice
            label="It stands"
            value={p.page}
            options={[
              ['', 'here, as a text'],
              ...view.pages.map((x) => [x.address, `on the page ${x.name}`] as const),
            ]}
            onChange={(page) => policy(n, { page })}
          />
          {!p.page && (
            <label className="lab">
              The text
              <textarea
                className="in"
                rows={5}
                maxLength={40000}
                value={p.text}
                onChange={(e) => policy(n, { text: e.target.value })}
              />
            </label>
          )}
        </div>
      ))}
      <p>
        <button
          type="button"
          className="btn sm"
          onClick={() =>
            put({
              policies: [
                ...c.policies,
                {
                  id: `p${Math.random().toString(36).slice(2, 8)}`,
                  name: 'Terms of sale',
                  page: '',
                  text: '',
                },
              ],
            })
          }
        >
          <Plus size={12} aria-hidden />A text to agree to
        </button>
      </p>
      <div className="rh">
        <h2>Your own words</h2>
        <span className="note">beside the usual ones</span>
      </div>
      <label className="lab">
        On the thank-you page
        <textarea
          className="in"
          rows={3}
          maxLength={1000}
          value={c.thanks}
          placeholder="We start weaving on Monday."
          onChange={(e) => put({ thanks: e.target.value })}
        />
      </label>
      <label className="lab">
        Where a payment did not go through
        <textarea
          className="in"
          rows={3}
          maxLength={1000}
          value={c.failed}
          placeholder="If it goes wrong again, ring us: we will find a way."
          onChange={(e) => put({ failed: e.target.value })}
        />
      </label>
      <Foot part={part} beside={false} />
    </section>
  );
}

/** Who sells: what invoices, packing slips and letters say at their head. */
export function SellerEditor({ part, zone }: { part: Part<'seller'>; zone: Part<'zone'> }) {
  const { draft: s, set } = part;
  const put = (change: Partial<typeof s>) => set({ ...s, ...change });
  return (
    <section className="tedit" aria-label="Who sells">
      <header>
        <h1>Who sells</h1>
      </header>
      <p className="note">
        At the head of invoices, credit notes and packing slips. An invoice that was issued never changes.
      </p>
      <div className="g-2">
        <TextField
          label="Name of the business"
          value={s.name}
          most={120}
          placeholder="the site’s name"
          onChange={(name) => put({ name })}
        />
        <TextField
          label="Tax number"
          value={s.taxNumber}
          most={40}
          onChange={(taxNumber) => put({ taxNumber })}
        />
      </div>
      <label className="lab">
        Address
        <textarea
          className="in"
          rows={4}
          maxLength={400}
          value={s.address}
          onChange={(e) => put({ address: e.target.value })}
        />
      </label>
      <div className="g-2">
        <TextField
          label="E-mail"
          type="email"
          value={s.email}
          most={200}
          placeholder="answers of buyers, and news of orders"
          onChange={(email) => put({ email })}
        />
        <TextField
          label="Before invoice numbers"
          value={s.prefix}
          most={12}
          placeholder="none"
          onChange={(prefix) => put({ prefix })}
        />
      </div>
      <label className="lab">
        At the foot of papers
        <textarea
          className="in"
          rows={2}
          maxLength={400}
          value={s.foot}
          onChange={(e) => put({ foot: e.target.value })}
        />
      </label>
      <Foot part={part} beside={false} />
      <div className="g-2">
        <Choice
          label="The shop’s clock"
          value={zone.draft}
          options={Intl.supportedValuesOf('timeZone')
            .concat(Intl.supportedValuesOf('timeZone').includes('UTC') ? [] : ['UTC'])
            .map((z) => [z, z.replace(/_/g, ' ')] as const)}
          onChange={zone.set}
        />
      </div>
      <p className="note">Days of offers, closing days, takings and dates on papers go by it.</p>
      <Foot part={zone} beside={false} />
    </section>
  );
}
