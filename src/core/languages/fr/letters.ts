import type { LetterWords } from '../language';

export const letters: LetterWords = {
  confirmation: {
    subject: 'Votre commande {number} chez {shop}',
    text: 'Bonjour {buyer},\n\nmerci pour votre commande {number} du {day}.\n\n{goods}\n\nTotal : {total}\n{pay}\n\nElle vient par : {way}\nElle va à : {address}\nVotre message : {note}\n\nVos bons cadeaux : {vouchers}\n\nVos fichiers : {files}\n\nVotre commande à tout moment : {order}\n\n{shop}',
  },
  paid: {
    subject: 'Votre paiement de la commande {number} est arrivé',
    text: 'Bonjour {buyer},\n\n{total} pour votre commande {number} sont arrivés. Merci.\n\nVos bons cadeaux : {vouchers}\n\nVos fichiers : {files}\n\nVotre commande : {order}\n\n{shop}',
  },
  sent: {
    subject: 'Votre commande {number} est en route',
    text: 'Bonjour {buyer},\n\nvotre commande {number} est en route vers vous.\n\n{goods}\n\nElle va à : {address}\nSuivi : {tracking}\n\nVotre commande : {order}\n\n{shop}',
  },
  refund: {
    subject: 'Remboursement de la commande {number}',
    text: 'Bonjour {buyer},\n\nnous avons remboursé {amount} de votre commande {number}.\n{back}\n{reason}\n\nVotre commande : {order}\n\n{shop}',
  },
  files: {
    subject: 'Vos fichiers de la commande {number}',
    text: 'Bonjour {buyer},\n\nvos fichiers sont ici : {files}\n\n{shop}',
  },
  reminder: {
    subject: '{event} : {when}',
    text: 'Bonjour {buyer},\n\nc’est bientôt : {event}.\n\nQuand : {when}\nOù : {where}\n\nLa date est jointe pour votre agenda. Votre commande : {order}\n\nÀ bientôt,\n{shop}',
  },
  review: {
    subject: 'Qu’en pensez-vous ?',
    text: 'Bonjour {buyer},\n\nil y a quelque temps, vous avez commandé chez nous :\n\n{goods}\n\nSi vous le voulez, écrivez quelques mots pour les autres : {review}\n\nMerci,\n{shop}',
  },
  'left-behind': {
    subject: 'Encore dans votre panier chez {shop}',
    text: 'Bonjour {buyer},\n\nvous vouliez un rappel de ce qui reste dans votre panier :\n\n{goods}\n\nTotal : {total}\n\nIl est ici : {cart}\n\nC’est le seul rappel.\n\n{shop}',
  },
  'to-owner': {
    subject: 'Commande {number} : {total} de {buyer}',
    text: 'Une nouvelle commande, {number}.\n\n{goods}\n\nTotal : {total}\n{pay}\n\nPar : {way}\nÀ : {address}\nDe : {buyer}, {email}\nMessage : {note}\n\n{order}',
  },
};
