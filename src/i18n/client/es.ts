import type { ClientMessages } from './en';

export const es: ClientMessages = {
  door: {
    title: '¿Es usted?',
    why: 'Sus respuestas son privadas. Primero le enviamos un código, para que nadie más pueda abrir esta página.',
    toEmail: 'Enviamos seis cifras a su correo {masked}.', toText: 'Enviamos seis cifras por mensaje de texto a {masked}.',
    send: 'Enviarme el código', again: 'Enviar otro código', codeLabel: 'Las seis cifras de nuestro mensaje', codeHelp: 'Sirve durante 10 minutos.', check: 'Abrir mi página',
    sentEmail: 'El código va de camino a {masked}. Puede tardar un minuto.', sentText: 'El código va de camino a {masked}.',
    notMine: '¿No es su dirección? Entonces esta página no es para usted. Avise a la consulta.',
    wrong: 'Ese no es el código. Le {left, plural, one {queda # intento} other {quedan # intentos}}.',
    expired: 'Este código ya no sirve. Pida otro.', wait: 'Acabamos de enviar un código. Puede pedir otro en {seconds, plural, one {# segundo} other {# segundos}}.',
    tooMany: 'Se enviaron demasiados códigos. Pruebe dentro de una hora o llame a la consulta.',
    closedTitle: 'Esta página está cerrada', closed: 'El enlace ha terminado o hay uno más nuevo. Pida a la consulta que le envíe otro.',
    lockedTitle: 'Esta página está bloqueada', locked: 'Se escribió mal el código demasiadas veces. Nadie entró y sus respuestas están a salvo. La consulta lo sabe y puede enviarle otro enlace.',
  },
  fill: {
    step: 'Paso {at} de {of}', forWhom: 'Usted responde por {name}.', back: 'Atrás', next: 'Siguiente', toReview: 'Revisar mis respuestas',
    yes: 'Sí', no: 'No', optional: '(si quiere)', other: 'Otra cosa', otherLabel: 'Con sus palabras', clear: 'Borrar esta respuesta', choose: 'Elija una', openTerms: 'Abrir y leer las condiciones', termsFirst: 'Abra primero las condiciones de arriba.', agree: 'Estoy de acuerdo',
    addRow: 'Añadir: {what}', addAnother: 'Añadir otra vez: {what}', removeRow: 'Quitar', removed: 'Quitado.', putBack: 'Devolver', row: '{what} {n}',
    saved: 'Guardado {time}', saving: 'Guardando…', startNote: 'Sus respuestas se guardan mientras escribe. Puede parar y volver.',
    offline: 'Sin conexión. Siga: lo que escribe queda en esta página y se guarda cuando vuelva la conexión.',
    stopped: 'Esta página ya no está abierta y las últimas respuestas no se guardaron. Cárguela otra vez o pregunte a la consulta.',
    problems: '{count, plural, one {Hay una respuesta que mirar} other {Hay # respuestas que mirar}}', required: 'Responda a esta, por favor.',
    signTitle: 'Firmar: {title}', signName: 'Su nombre completo', signHow: '¿Cómo quiere firmar?', signType: 'Escribir mi nombre', signDraw: 'Dibujar con el dedo o el ratón',
    drawHere: 'Dibuje aquí', drawAgain: 'Empezar de nuevo', sign: 'Firmar', signedAt: 'Firmado {time}. Si cambia una respuesta de arriba, firma otra vez.', signFirst: 'Responda primero a las preguntas de esta parte y luego firme.', notDrawn: 'Dibuje su nombre en el campo, o elija escribirlo.',
    mustSign: 'Esta parte aún no está firmada.',
    reviewTitle: 'Revisar y enviar', reviewText: 'Esto es todo lo que escribió. Todavía puede cambiarlo. Después de enviarlo ya no se puede cambiar aquí.', notAnswered: 'Sin respuesta', change: 'Cambiar',
    send: 'Enviar a {practice}', sendAgain: 'Probar otra vez', noReply: 'No recibimos respuesta. Lo que escribió está guardado. Pulse otra vez: solo se envía una vez.',
    doneTitle: 'Gracias. Está enviado.', doneText: '{practice} tiene sus respuestas. Puede cerrar esta página.', closedText: 'Esta página está cerrada. Si tiene que cambiar algo, avise a la consulta.',
    outside: 'Para abrir esta página use el enlace de nuestro mensaje.',
  },
  problem: {
    missing: 'Responda a esta, por favor.', wrongKind: 'Esto no parece correcto.', number: 'Escriba un número.', wholeNumber: 'Escriba un número entero.', notAnOption: 'Elija una de la lista.', tooLong: 'Es demasiado largo. Como mucho {limit} signos.', tooShort: 'Es demasiado corto. Al menos {limit} signos.',
    tooSmall: 'Tiene que ser {limit} o más.', tooLarge: 'Tiene que ser {limit} o menos.', decimals: 'Como mucho {limit, plural, one {# cifra} other {# cifras}} después de la coma.', pattern: 'Tiene que ser así: {limit}.',
    email: 'Un correo es como nombre@correo.example.', phone: 'Un teléfono tiene de 7 a 15 cifras.', webAddress: 'Una dirección web empieza por https://', noSuchDate: 'Ese día no existe.', onlyOne: 'Elija solo una.', exclusive: 'Una de sus opciones excluye las demás.', needsARow: 'Añada al menos una.', notAsked: 'Esto no se preguntó.',
  },
};
