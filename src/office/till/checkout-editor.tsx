import { Plus, X } from 'lucide-react';
import type { TillView } from '../../services/till/try-cart';
import { Choice, TextField, Tick } from '../goods/fields';
import { Foot } from './fields';
import type { Part } from './use-till';
import { checkoutEditor as say } from '../words/till';

/** What the checkout asks for beside the address, what buyers agree to, and the owner's words at its ends. */
export function CheckoutEditor({ part, view }: { part: Part<'checkout'>; view: TillView }) {
  const { draft: c, set } = part;
  const put = (change: Partial<typeof c>) => set({ ...c, ...change });
  return (
    <section className="tedit" aria-label={say.checkout}>
      <header>
        <h1>{say.checkout}</h1>
      </header>
      <div className="g-row">
        <Tick checked={c.note} onChange={(note) => put({ note })}>
          {say.buyersMayWriteANote}
        </Tick>
        <Tick checked={c.company} onChange={(company) => put({ company })}>
          {say.aFieldForACompany}
        </Tick>
      </div>
      <div className="g-3">
        <Choice
          label={say.telephone}
          value={c.phone}
          options={[
            ['no', say.isNotAskedFor],
            ['may', say.mayBeLeftEmpty],
            ['must', say.hasToBeWritten],
          ]}
          onChange={(phone) => put({ phone })}
        />
      </div>
      <p className="note">{say.whichPartsAnAddressHasFollows}</p>
      <div className="rh">
        <h2>{say.whatBuyersAgreeTo}</h2>
        <span className="note">{say.eachOrderKeepsTheVersionThat}</span>
      </div>
      <Policies policies={c.policies} view={view} onChange={(policies) => put({ policies })} />
      <div className="rh">
        <h2>{say.yourOwnWords}</h2>
        <span className="note">{say.besideTheUsualOnes}</span>
      </div>
      <label className="lab">
        {say.onTheThankYouPage}
        <textarea
          className="in"
          rows={3}
          maxLength={1000}
          value={c.thanks}
          placeholder={say.weStartWeavingOnMonday}
          onChange={(e) => put({ thanks: e.target.value })}
        />
      </label>
      <label className="lab">
        {say.whereAPaymentDidNotGo}
        <textarea
          className="in"
          rows={3}
          maxLength={1000}
          value={c.failed}
          placeholder={say.ifItGoesWrongAgainRing}
          onChange={(e) => put({ failed: e.target.value })}
        />
      </label>
      <Foot part={part} beside={false} />
    </section>
  );
}

type Policy = Part<'checkout'>['draft']['policies'][number];

/** Texts that buyers agree to: each on a page of the site, or written here. */
function Policies({
  policies,
  view,
  onChange,
}: {
  policies: readonly Policy[];
  view: TillView;
  onChange: (to: Policy[]) => void;
}) {
  const policy = (n: number, change: Partial<Policy>) =>
    onChange(policies.map((p, i) => (i === n ? { ...p, ...change } : p)));
  const add = () =>
    onChange([
      ...policies,
      { id: `p${Math.random().toString(36).slice(2, 8)}`, name: say.termsOfSale, page: '', text: '' },
    ]);
  return (
    <>
      {policies.map((p, n) => (
        <div key={p.id} className="rg">
          <div className="rh">
            <input
              className="gname"
              aria-label={say.nameOfText(n + 1)}
              value={p.name}
              maxLength={80}
              onChange={(e) => policy(n, { name: e.target.value })}
            />
            <button
              type="button"
              className="btn sm quiet beet"
              aria-label={say.takeAway(p.name)}
              onClick={() => onChange(policies.filter((_, i) => i !== n))}
            >
              <X size={12} aria-hidden />
            </button>
          </div>
          <Choice
            label={say.itStands}
            value={p.page}
            options={[
              ['', say.hereAsAText],
              ...view.pages.map((x) => [x.address, say.onThePage(x.name)] as const),
            ]}
            onChange={(page) => policy(n, { page })}
          />
          {!p.page && (
            <label className="lab">
              {say.theText}
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
        <button type="button" className="btn sm" onClick={add}>
          <Plus size={12} aria-hidden />
          {say.aTextToAgreeTo}
        </button>
      </p>
    </>
  );
}

/** Who sells: what invoices, packing slips and letters say at their head. */
export function SellerEditor({ part, zone }: { part: Part<'seller'>; zone: Part<'zone'> }) {
  const { draft: s, set } = part;
  const put = (change: Partial<typeof s>) => set({ ...s, ...change });
  return (
    <section className="tedit" aria-label={say.whoSells}>
      <header>
        <h1>{say.whoSells}</h1>
      </header>
      <p className="note">{say.atTheHeadOfInvoicesCredit}</p>
      <div className="g-2">
        <TextField
          label={say.nameOfTheBusiness}
          value={s.name}
          most={120}
          placeholder={say.theSitesName}
          onChange={(name) => put({ name })}
        />
        <TextField
          label={say.taxNumber}
          value={s.taxNumber}
          most={40}
          onChange={(taxNumber) => put({ taxNumber })}
        />
      </div>
      <label className="lab">
        {say.address}
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
          label={say.eMail}
          type="email"
          value={s.email}
          most={200}
          placeholder={say.answersOfBuyersAndNewsOf}
          onChange={(email) => put({ email })}
        />
        <TextField
          label={say.beforeInvoiceNumbers}
          value={s.prefix}
          most={12}
          placeholder={say.none}
          onChange={(prefix) => put({ prefix })}
        />
      </div>
      <label className="lab">
        {say.atTheFootOfPapers}
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
          label={say.theShopsClock}
          value={zone.draft}
          options={Intl.supportedValuesOf('timeZone')
            .concat(Intl.supportedValuesOf('timeZone').includes('UTC') ? [] : ['UTC'])
            .map((z) => [z, z.replace(/_/g, ' ')] as const)}
          onChange={zone.set}
        />
      </div>
      <p className="note">{say.daysOfOffersClosingDaysTakings}</p>
      <Foot part={zone} beside={false} />
    </section>
  );
}
