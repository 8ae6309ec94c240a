/** Every word of the client's pages that is ours. ICU messages; keys are typed. Reading grade at or below 6. */
export const en = {
  door: {
    title: 'Is it you?',
    why: 'Your answers are private. We send you a code first, so that nobody else can open this page.',
    toEmail: 'We send six digits to your e-mail {masked}.', toText: 'We send six digits by text to {masked}.',
    send: 'Send me the code', again: 'Send a new code', codeLabel: 'Six digits from our message', codeHelp: 'It works for 10 minutes.', check: 'Open my page',
    sentEmail: 'A code is on its way to {masked}. It can take a minute.', sentText: 'A code is on its way to {masked}.',
    notMine: 'Not your address? Then this page is not for you. Please tell the practice.',
    wrong: 'That is not the code. You have {left, plural, one {# try} other {# tries}} left.',
    expired: 'This code is too old. Ask for a new one.', wait: 'A code was just sent. You can ask for a new one in {seconds, plural, one {# second} other {# seconds}}.',
    tooMany: 'Too many codes were sent. Try again in an hour, or call the practice.',
    detailsWhy: 'Your answers are private. Tell us two things we know, so that nobody else can open this page.', readOut: 'The practice reads six digits out to you. Ask them for the code, then type it here.', readOutLabel: 'Six digits the practice read out', free: 'This page is yours. Please do not give the link to anybody else.', birthDate: 'Birth date', birthDateOf: 'Birth date of the person you answer for', lastName: 'Last name', lastNameOf: 'Their last name', postcode: 'Postcode', wrongDetails: 'That is not what we have on file. You have {left, plural, one {# try} other {# tries}} left.',
    known: 'You proved who you are on this device a short while ago.',
    closedTitle: 'This page is closed', closed: 'The link has ended or was replaced by a newer one. Ask the practice to send you a new link.',
    lockedTitle: 'This page is locked', locked: 'A wrong code was typed too many times. Nobody got in, and your answers are safe. The practice knows, and can send you a new link.',
  },
  fill: {
    step: 'Step {at} of {of}', forWhom: 'You answer for {name}.', back: 'Back', next: 'Next', toReview: 'Check my answers',
    yes: 'Yes', no: 'No', optional: '(if you like)', other: 'Something else', otherLabel: 'In your words', clear: 'Clear this answer', choose: 'Choose one', openTerms: 'Open and read the terms', termsFirst: 'Open the terms above first.', agree: 'I agree',
    addRow: 'Add: {what}', addAnother: 'Add another: {what}', removeRow: 'Remove', removed: 'Removed.', putBack: 'Put back', row: '{what} {n}',
    saved: 'Saved {time}', saving: 'Saving…', startNote: 'Your answers are saved as you type. You can stop and come back.',
    offline: 'No connection. Keep going: what you type stays on this page and is saved when you are back.',
    stopped: 'This page is no longer open, so the last answers were not saved. Load it again, or ask the practice.',
    problems: '{count, plural, one {One answer needs} other {# answers need}} a look', required: 'Please answer this one.',
    signTitle: 'Sign: {title}', signName: 'Your full name', signHow: 'How do you want to sign?', signType: 'Type my name', signDraw: 'Draw with finger or mouse',
    drawHere: 'Draw here', drawAgain: 'Start over', sign: 'Sign', signedAt: 'Signed {time}. If you change an answer above, you sign again.', signFirst: 'Answer the questions of this part first, then sign.', notDrawn: 'Draw your name in the field, or choose to type it.',
    mustSign: 'This part is not signed yet.',
    reviewTitle: 'Check and send', reviewText: 'This is everything you wrote. You can still change it. After you send it, it cannot be changed here.', notAnswered: 'Not answered', change: 'Change',
    send: 'Send to {practice}', sendAgain: 'Try again', noReply: 'We got no reply. Your answers are saved. Press again: they are sent once only.',
    doneTitle: 'Thank you. It is sent.', doneText: '{practice} has your answers. You can close this page.', closedText: 'This page is closed. If you need to change something, tell the practice.',
    addFile: 'Add a photo or file', fileHelp: 'Photos and PDF files, up to 10 MB each.', fileSending: 'Sending {name}: {percent}%', fileStop: 'Stop', fileRemove: 'Take away {name}', fileAgain: '{name} did not arrive. Your answers are safe. Add it once more.',
    fileTooLarge: '{name} is larger than 10 MB. Take a smaller photo, or send fewer pages.', fileWrongKind: '{name} is not a photo or a PDF file.', fileUnsafe: '{name} looks harmful, so we did not take it.', fileBroken: '{name} cannot be read. Try to save or take it again.', fileLocked: '{name} is locked with a password. Save it without one.', fileScript: '{name} holds a program, so we did not take it. Print it to a new PDF file and add that.', fileTooMany: 'There are too many files here.',
    sheet: 'Get the empty sheet (PDF)',
    stillRight: '{count, plural, one {One answer here is} other {# answers here are}} from our records. Still right?', yesStillRight: 'Yes, still right', fromRecords: 'From our records', sayStillRight: 'Say if what we filled in is still right, or change it.',
    comment: 'Anything else you want to tell us?', copy: 'Keep a copy of my answers (PDF)', startAgain: 'Start again', cleared: 'All answers were cleared.', wantedBy: 'Please send it by {day}.', language: 'Language',
    sentBackNote: '{practice} asks you to look at some answers once more. Only these are open.',
    minutesLeft: 'about {count, plural, one {# minute} other {# minutes}} left', readOnly: 'You can read this. {practice} asked somebody else to fill it in.', shared: 'You fill this in together with {names}. You see what the others write, and nobody loses anything.', answeredBy: 'Answered by {name}', answeredIn: 'You gave this answer in “{title}”. Change it here if you need to.', clash: 'You answered this on another device too:', clashBy: '{name} answered this too, at the same time:', keepMine: 'Keep what stands here', takeTheirs: 'Take that one', leaflets: 'To read, from the practice:', again: 'The same link works again next time.', goOn: 'Go on',
    outside: 'To open this page, use the link in our message.',
  },
  problem: {
    missing: 'Please answer this one.', wrongKind: 'This does not look right.', number: 'Type a number.', wholeNumber: 'Type a whole number.', notAnOption: 'Choose one from the list.', tooLong: 'This is too long. The most is {limit} signs.', tooShort: 'This is too short. The least is {limit} signs.',
    tooSmall: 'This must be {limit} or more.', tooLarge: 'This must be {limit} or less.', decimals: 'Use no more than {limit, plural, one {# digit} other {# digits}} after the point.', pattern: 'This must look like {limit}.',
    email: 'An e-mail address looks like name@mail.example.', phone: 'A phone number has 7 to 15 digits.', webAddress: 'A web address starts with https://', noSuchDate: 'There is no such day.', onlyOne: 'Choose only one.', exclusive: 'One of your choices rules out the others.', needsARow: 'Add at least one.', notAsked: 'This was not asked.',
  },
} as const;

type Words<T> = { readonly [N in keyof T]: { readonly [K in keyof T[N]]: string } };
export type ClientMessages = Words<typeof en>;
