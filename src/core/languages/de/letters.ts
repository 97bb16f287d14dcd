import type { LetterWords } from '../language';

export const letters: LetterWords = {
  confirmation: {
    subject: 'Deine Bestellung {number} bei {shop}',
    text: 'Hallo {buyer},\n\ndanke für deine Bestellung {number} vom {day}.\n\n{goods}\n\nSumme: {total}\n{pay}\n\nSie kommt mit: {way}\nSie geht an: {address}\nDeine Nachricht: {note}\n\nDeine Gutscheine: {vouchers}\n\nDeine Dateien: {files}\n\nDeine Bestellung jederzeit: {order}\n\n{shop}',
  },
  paid: {
    subject: 'Deine Zahlung für Bestellung {number} ist da',
    text: 'Hallo {buyer},\n\n{total} für deine Bestellung {number} sind angekommen. Danke.\n\nDeine Gutscheine: {vouchers}\n\nDeine Dateien: {files}\n\nDeine Bestellung: {order}\n\n{shop}',
  },
  sent: {
    subject: 'Deine Bestellung {number} ist unterwegs',
    text: 'Hallo {buyer},\n\ndeine Bestellung {number} ist unterwegs zu dir.\n\n{goods}\n\nSie geht an: {address}\nSendungsnummer: {tracking}\n\nDeine Bestellung: {order}\n\n{shop}',
  },
  refund: {
    subject: 'Geld zurück für Bestellung {number}',
    text: 'Hallo {buyer},\n\nvon deiner Bestellung {number} haben wir {amount} zurückgegeben.\n{back}\n{reason}\n\nDeine Bestellung: {order}\n\n{shop}',
  },
  files: {
    subject: 'Deine Dateien zur Bestellung {number}',
    text: 'Hallo {buyer},\n\ndeine Dateien liegen hier: {files}\n\n{shop}',
  },
  reminder: {
    subject: '{event}: {when}',
    text: 'Hallo {buyer},\n\nbald ist es so weit: {event}.\n\nWann: {when}\nWo: {where}\n\nDer Termin hängt für deinen Kalender an. Deine Bestellung: {order}\n\nBis dann,\n{shop}',
  },
  review: {
    subject: 'Wie gefällt es dir?',
    text: 'Hallo {buyer},\n\nvor einer Weile hast du bei uns bestellt:\n\n{goods}\n\nWenn du magst, schreib ein paar Worte für andere: {review}\n\nDanke,\n{shop}',
  },
  'left-behind': {
    subject: 'Noch in deinem Warenkorb bei {shop}',
    text: 'Hallo {buyer},\n\ndu wolltest an das erinnert werden, was noch in deinem Warenkorb liegt:\n\n{goods}\n\nSumme: {total}\n\nEr ist hier: {cart}\n\nDies ist die einzige Erinnerung.\n\n{shop}',
  },
  'to-owner': {
    subject: 'Bestellung {number}: {total} von {buyer}',
    text: 'Eine neue Bestellung, {number}.\n\n{goods}\n\nSumme: {total}\n{pay}\n\nMit: {way}\nAn: {address}\nVon: {buyer}, {email}\nNachricht: {note}\n\n{order}',
  },
};
