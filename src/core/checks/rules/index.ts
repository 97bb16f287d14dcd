import type { Rule } from '../rule';
import { noWayBack } from './ways/back';
import { noWayToCart } from './ways/cart';
import { deadFragment } from './ways/dead-fragment';
import { deadLink } from './ways/dead-link';
import { menuDiffers } from './ways/menu-differs';
import { menuFits } from './ways/menu-fits';
import { menuLeadsToCart } from './ways/menu-to-cart';
import { noWayToProduct } from './ways/product';
import { scriptOnly } from './ways/script-only';
import { shopNotCurrent } from './ways/shop-current';
import { shopInNoMenu } from './ways/shop-in-menu';
import { noWayToShop } from './ways/shop';
import { badCode } from './widgets/bad-code';
import { codeAsText } from './widgets/code-as-text';
import { contradict } from './widgets/contradict';
import { frameCut } from './widgets/frame-cut';
import { insecure } from './widgets/insecure';
import { journalOnShop } from './widgets/journal-on-shop';
import { pageSwitching } from './widgets/page-switching';
import { pitchGone } from './widgets/pitch-gone';
import { policyForbids } from './widgets/policy';
import { sameTwice } from './widgets/same-twice';
import { scriptMissing } from './widgets/script-missing';
import { scriptTwice } from './widgets/script-twice';
import { settingsUnknown } from './widgets/settings-unknown';
import { standsBadly } from './widgets/stands-badly';
import { twoFronts } from './widgets/two-fronts';
import { unknownCategory } from './widgets/unknown-category';
import { unknownChoice } from './widgets/unknown-choice';
import { unknownGoods } from './widgets/unknown-goods';
import { unknownShop } from './widgets/unknown-shop';
import { altMissing } from './goods/alt-missing';
import { badgeLong } from './goods/badge-long';
import { byLinkInList } from './goods/by-link-in-list';
import { currencyInText } from './goods/currency-in-text';
import { emptyCategory } from './goods/empty-category';
import { fromPrice } from './goods/from-price';
import { noPicture } from './goods/no-picture';
import { offerEnded } from './goods/offer-ended';
import { pageAlt } from './goods/page-alt';
import { pictureSmall } from './goods/picture-small';
import { placeholderText } from './goods/placeholder';
import { priceInText } from './goods/price-in-text';
import { samplesLeft } from './goods/samples';
import { shapesMixed } from './goods/shapes-mixed';
import { soldOut } from './goods/sold-out';
import { twins } from './goods/twins';
import { wasPrice } from './goods/was-price';
import { classWithoutRate } from './till/class-without-rate';
import { codeNever } from './till/code-never';
import { lettersStuck } from './till/letters-stuck';
import { noWayToPay } from './till/no-way-to-pay';
import { notConnected } from './till/not-connected';
import { shippingGaps } from './till/shipping-gaps';
import { shippingRegion } from './till/shipping-region';
import { textsMissing } from './till/texts-missing';
import { transferAccount } from './till/transfer-account';
import { tryingOut } from './till/trying-out';
import { weightMissing } from './till/weight-missing';
import { contrast } from './look/contrast';
import { lookDrift } from './look/drift';
import { fontMissing } from './look/fonts';
import { headerDiffers } from './look/header-differs';
import { menuUnreadable } from './look/menu-unreadable';
import { pageWeight } from './look/page-weight';
import { liveDiffers } from './live/differs';
import { liveElsewhere } from './live/elsewhere';
import { handOutGone } from './live/hand-outs';
import { shopUnreachable } from './live/shop-unreachable';
import { slower } from './live/slower';

/** All that is looked for. One line to each. */
export const rules: readonly Rule[] = [
  noWayBack,
  noWayToCart,
  deadFragment,
  deadLink,
  menuDiffers,
  menuFits,
  menuLeadsToCart,
  noWayToProduct,
  scriptOnly,
  shopNotCurrent,
  shopInNoMenu,
  noWayToShop,
  badCode,
  codeAsText,
  contradict,
  frameCut,
  insecure,
  journalOnShop,
  pageSwitching,
  pitchGone,
  policyForbids,
  sameTwice,
  scriptMissing,
  scriptTwice,
  settingsUnknown,
  standsBadly,
  twoFronts,
  unknownCategory,
  unknownChoice,
  unknownGoods,
  unknownShop,
  altMissing,
  badgeLong,
  byLinkInList,
  currencyInText,
  emptyCategory,
  fromPrice,
  noPicture,
  offerEnded,
  pageAlt,
  pictureSmall,
  placeholderText,
  priceInText,
  samplesLeft,
  shapesMixed,
  soldOut,
  twins,
  wasPrice,
  classWithoutRate,
  codeNever,
  lettersStuck,
  noWayToPay,
  notConnected,
  shippingGaps,
  shippingRegion,
  textsMissing,
  transferAccount,
  tryingOut,
  weightMissing,
  contrast,
  lookDrift,
  fontMissing,
  headerDiffers,
  menuUnreadable,
  pageWeight,
  liveDiffers,
  liveElsewhere,
  handOutGone,
  shopUnreachable,
  slower,
];

export const ruleOf = (name: string): Rule | undefined => rules.find((r) => r.name === name);
