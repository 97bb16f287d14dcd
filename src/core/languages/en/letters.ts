import type { LetterWords } from '../language';

/** Words in braces are figures of the order; a line whose figures are all missing is left out. */
export const letters: LetterWords = {
  confirmation: {
    subject: 'Your order {number} at {shop}',
    text: 'Dear {buyer},\n\nthank you for your order {number} of {day}.\n\n{goods}\n\nTotal: {total}\n{pay}\n\nShipping method: {way}\nDelivery address: {address}\nYour note: {note}\n\nYour gift vouchers: {vouchers}\n\nYour files: {files}\n\nYour order at any time: {order}\n\n{shop}',
  },
  paid: {
    subject: 'Your payment for order {number} has arrived',
    text: 'Dear {buyer},\n\n{total} for your order {number} have arrived. Thank you.\n\nYour gift vouchers: {vouchers}\n\nYour files: {files}\n\nYour order: {order}\n\n{shop}',
  },
  sent: {
    subject: 'Your order {number} is on its way',
    text: 'Dear {buyer},\n\nyour order {number} is on its way to you.\n\n{goods}\n\nDelivery address: {address}\nTracking: {tracking}\n\nYour order: {order}\n\n{shop}',
  },
  refund: {
    subject: 'Refund for order {number}',
    text: 'Dear {buyer},\n\nwe have refunded {amount} of your order {number}.\n{back}\n{reason}\n\nYour order: {order}\n\n{shop}',
  },
  files: {
    subject: 'Your files of order {number}',
    text: 'Dear {buyer},\n\nyour files are here: {files}\n\n{shop}',
  },
  reminder: {
    subject: '{event}: {when}',
    text: 'Dear {buyer},\n\nsoon it is time: {event}.\n\nWhen: {when}\nWhere: {where}\n\nThe date is attached for your calendar. Your order: {order}\n\nSee you there,\n{shop}',
  },
  review: {
    subject: 'How do you like it?',
    text: 'Dear {buyer},\n\na while ago you ordered from us:\n\n{goods}\n\nIf you like, write a few words for others: {review}\n\nThank you,\n{shop}',
  },
  'left-behind': {
    subject: 'Still in your cart at {shop}',
    text: 'Hello {buyer},\n\nyou asked to be reminded of what is still in your cart:\n\n{goods}\n\nTotal: {total}\n\nIt is here: {cart}\n\nThis is the only reminder.\n\n{shop}',
  },
  'to-owner': {
    subject: 'Order {number}: {total} from {buyer}',
    text: 'A new order, {number}.\n\n{goods}\n\nTotal: {total}\n{pay}\n\nShipping method: {way}\nDelivery address: {address}\nFrom: {buyer}, {email}\nNote: {note}\n\n{order}',
  },
};
