import type { ClientMessages } from './en';

export const fr: ClientMessages = {
  door: {
    title: 'Est-ce bien vous ?',
    why: 'Vos réponses sont privées. Nous envoyons d’abord un code, pour que personne d’autre n’ouvre cette page.',
    toEmail: 'Nous envoyons six chiffres à votre adresse {masked}.', toText: 'Nous envoyons six chiffres par texto au {masked}.',
    send: 'M’envoyer le code', again: 'Envoyer un autre code', codeLabel: 'Les six chiffres de notre message', codeHelp: 'Il marche pendant 10 minutes.', check: 'Ouvrir ma page',
    sentEmail: 'Le code est en route vers {masked}. Cela peut prendre une minute.', sentText: 'Le code est en route vers {masked}.',
    notMine: 'Ce n’est pas votre adresse ? Alors cette page n’est pas pour vous. Dites-le au cabinet.',
    wrong: 'Ce n’est pas le code. Il vous reste {left, plural, one {# essai} other {# essais}}.',
    expired: 'Ce code est trop vieux. Demandez-en un autre.', wait: 'Un code vient de partir. Vous pouvez en demander un autre dans {seconds, plural, one {# seconde} other {# secondes}}.',
    tooMany: 'Trop de codes sont partis. Essayez dans une heure, ou appelez le cabinet.',
    closedTitle: 'Cette page est fermée', closed: 'Le lien a pris fin ou un plus récent le remplace. Demandez un nouveau lien au cabinet.',
    lockedTitle: 'Cette page est bloquée', locked: 'Un mauvais code a été tapé trop souvent. Personne n’est entré et vos réponses sont en sûreté. Le cabinet le sait et peut vous envoyer un nouveau lien.',
  },
  fill: {
    step: 'Étape {at} sur {of}', forWhom: 'Vous répondez pour {name}.', back: 'Retour', next: 'Suivant', toReview: 'Relire mes réponses',
    yes: 'Oui', no: 'Non', optional: '(si vous voulez)', other: 'Autre chose', otherLabel: 'Avec vos mots', clear: 'Effacer cette réponse', choose: 'Choisissez', openTerms: 'Ouvrir et lire les conditions', termsFirst: 'Ouvrez d’abord les conditions ci-dessus.', agree: 'Je suis d’accord',
    addRow: 'Ajouter : {what}', addAnother: 'Ajouter encore : {what}', removeRow: 'Retirer', removed: 'Retiré.', putBack: 'Remettre', row: '{what} {n}',
    saved: 'Enregistré {time}', saving: 'Enregistrement…', startNote: 'Vos réponses sont gardées pendant que vous écrivez. Vous pouvez arrêter et revenir.',
    offline: 'Pas de connexion. Continuez : ce que vous écrivez reste sur cette page et sera gardé au retour de la connexion.',
    stopped: 'Cette page n’est plus ouverte et les dernières réponses ne sont pas gardées. Chargez-la à nouveau, ou demandez au cabinet.',
    problems: '{count, plural, one {Une réponse est à revoir} other {# réponses sont à revoir}}', required: 'Répondez à celle-ci, s’il vous plaît.',
    signTitle: 'Signer : {title}', signName: 'Votre nom complet', signHow: 'Comment voulez-vous signer ?', signType: 'Écrire mon nom', signDraw: 'Dessiner au doigt ou à la souris',
    drawHere: 'Dessinez ici', drawAgain: 'Recommencer', sign: 'Signer', signedAt: 'Signé {time}. Si vous changez une réponse ci-dessus, vous signez à nouveau.', signFirst: 'Répondez d’abord aux questions de cette partie, puis signez.', notDrawn: 'Dessinez votre nom dans le champ, ou choisissez de l’écrire.',
    mustSign: 'Cette partie n’est pas encore signée.',
    reviewTitle: 'Relire et envoyer', reviewText: 'Voici tout ce que vous avez écrit. Vous pouvez encore le changer. Après l’envoi, on ne peut plus le changer ici.', notAnswered: 'Sans réponse', change: 'Changer',
    send: 'Envoyer à {practice}', sendAgain: 'Essayer encore', noReply: 'Nous n’avons pas eu de réponse. Ce que vous avez écrit est gardé. Appuyez encore : l’envoi n’est fait qu’une fois.',
    doneTitle: 'Merci. C’est envoyé.', doneText: '{practice} a vos réponses. Vous pouvez fermer cette page.', closedText: 'Cette page est fermée. S’il faut changer quelque chose, dites-le au cabinet.',
    outside: 'Pour ouvrir cette page, prenez le lien de notre message.',
  },
  problem: {
    missing: 'Répondez à celle-ci, s’il vous plaît.', wrongKind: 'Cela ne semble pas juste.', number: 'Tapez un nombre.', wholeNumber: 'Tapez un nombre entier.', notAnOption: 'Choisissez dans la liste.', tooLong: 'C’est trop long. Au plus {limit} signes.', tooShort: 'C’est trop court. Au moins {limit} signes.',
    tooSmall: 'Il faut {limit} ou plus.', tooLarge: 'Il faut {limit} ou moins.', decimals: 'Pas plus de {limit, plural, one {# chiffre} other {# chiffres}} après la virgule.', pattern: 'Il faut que ce soit comme {limit}.',
    email: 'Une adresse est comme nom@courrier.example.', phone: 'Un numéro a de 7 à 15 chiffres.', webAddress: 'Une adresse web commence par https://', noSuchDate: 'Ce jour n’existe pas.', onlyOne: 'Choisissez-en une seule.', exclusive: 'Un de vos choix exclut les autres.', needsARow: 'Ajoutez-en au moins un.', notAsked: 'Cela n’a pas été demandé.',
  },
};
