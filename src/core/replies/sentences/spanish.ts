import type { Bank } from "./bank";

export const SPANISH: Bank = {
  greeting: {
    plain: { named: "Hola, {name}:", nameless: "Hola:" },
    warm: { named: "¡Hola, {name}!", nameless: "¡Hola!" },
    formal: { named: "Buenos días, {name}:", nameless: "Buenos días:" },
  },
  opening: {
    happy: {
      plain: [
        "gracias por escribirlo.",
        "gracias por contarlo.",
        "nos alegra leerlo, gracias.",
        "gracias por su opinión.",
        "da gusto leer esto, gracias.",
      ],
      warm: [
        "¡qué alegría leer esto, muchas gracias!",
        "mil gracias por escribirlo.",
        "gracias de corazón.",
        "¡qué palabras tan bonitas, gracias!",
      ],
      formal: [
        "le agradecemos mucho sus amables palabras.",
        "muchas gracias por su reseña.",
        "es un placer leer sus palabras.",
        "agradecemos que se haya tomado el tiempo de escribir.",
      ],
    },
    mixed: {
      plain: [
        "gracias por contarnos cómo fue.",
        "gracias por hablar tan claro.",
        "gracias, una opinión así nos es útil.",
        "gracias por contarlo.",
      ],
      warm: [
        "gracias por una opinión tan sincera, nos ayuda mucho.",
        "gracias por contárnoslo con tanta claridad.",
        "le agradecemos que nos cuente cómo fue.",
        "gracias por hablarnos con franqueza.",
      ],
      formal: [
        "le agradecemos su opinión.",
        "agradecemos su franqueza.",
        "gracias por describir con tanta claridad cómo fue.",
        "agradecemos que se haya tomado el tiempo de escribir.",
      ],
    },
    unhappy: {
      plain: [
        "lo sentimos. Gracias por decírnoslo.",
        "sentimos que haya sido así.",
        "gracias por decirlo con claridad. Lo sentimos.",
        "esto no debería ser así, y lo sentimos.",
        "gracias por decírnoslo.",
        "gracias por decirlo con claridad.",
        "gracias por contarnos cómo fue.",
        "gracias por hablar claro.",
      ],
      warm: [
        "lo sentimos de verdad, y le agradecemos que nos lo cuente.",
        "nos duele leer esto, lo sentimos mucho.",
        "gracias por contárnoslo. Lo sentimos muchísimo.",
        "sentimos mucho no haber estado a la altura.",
        "le agradecemos que nos lo cuente.",
        "gracias por contárnoslo con tanta franqueza.",
        "gracias por tomarse el tiempo de contárnoslo.",
        "gracias por contárnoslo.",
      ],
      formal: [
        "le rogamos que acepte nuestras disculpas.",
        "lamentamos mucho que esta haya sido su experiencia.",
        "le pedimos disculpas y le agradecemos que nos avise.",
        "agradecemos su franqueza y le pedimos disculpas.",
        "le agradecemos que nos avise.",
        "agradecemos su franqueza.",
        "le agradecemos que nos lo haya comunicado.",
        "gracias por describir cómo fue.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Un saludo.", "Gracias de nuevo.", "Un cordial saludo.", "Que vaya muy bien."],
      warm: ["Significa mucho para nosotros.", "Un saludo muy cordial.", "Gracias otra vez, de verdad.", "Un abrazo."],
      formal: [
        "Reciba un cordial saludo.",
        "Será un placer recibirle de nuevo.",
        "Le reiteramos nuestro agradecimiento.",
        "Agradecemos mucho sus palabras.",
      ],
    },
    mixed: {
      plain: [
        "Si quiere contarnos más, escríbanos o llámenos.",
        "Nos gustaría saber más, si tiene un momento.",
        "Díganos si podemos hacer algo.",
        "Escríbanos si quiere hablarlo.",
      ],
      warm: [
        "Nos encantaría hacerlo mejor la próxima vez.",
        "Escríbanos, nos gustaría saber más.",
        "Cuéntenos más, si quiere.",
        "Nos alegraría tener noticias suyas.",
      ],
      formal: [
        "Nos gustaría tener la oportunidad de mejorar.",
        "No dude en ponerse en contacto con nosotros.",
        "Agradeceríamos que nos contara más.",
        "Póngase en contacto con nosotros si desea comentarlo.",
      ],
    },
    unhappy: {
      plain: [
        "Póngase en contacto con nosotros, por favor: queremos verlo con usted.",
        "Nos gustaría hablarlo. Llámenos o escríbanos, por favor.",
        "Escríbanos o llámenos para que podamos intentar arreglarlo.",
        "Nos gustaría hablar con usted para aclararlo.",
      ],
      warm: [
        "¿Nos deja intentar arreglarlo? Escríbanos o llámenos.",
        "Hable con nosotros, por favor, nos gustaría mucho arreglarlo.",
        "Llámenos o escríbanos, nos alegraría hablar con usted.",
        "Le agradeceríamos que nos escribiera o llamara, como le venga mejor.",
      ],
      formal: [
        "Le agradeceríamos que se pusiera en contacto con nosotros para estudiarlo.",
        "Le rogamos que nos contacte cuando le convenga: deseamos resolverlo.",
        "Le rogamos que se dirija directamente a nosotros.",
        "Agradeceríamos la oportunidad de hablarlo con usted en persona.",
      ],
    },
  },
  apologises: /sentimos|sentirlo|disculpas|lamentamos/i,
  sober: {
    happy: [
      "gracias por tomarse el tiempo de escribirnos. Les acompañamos en estos momentos.",
      "gracias por contárnoslo. Les tenemos presentes.",
      "gracias por su opinión. Les deseamos mucha fuerza.",
    ],
    unhappy: [
      "gracias por contárnoslo. Lo sentimos mucho y les acompañamos en estos momentos.",
      "sentimos mucho leer esto. Pónganse en contacto con nosotros cuando lo deseen.",
      "gracias por escribirnos. Lamentamos mucho lo que están pasando.",
    ],
  },
  wordless: {
    happy: [
      "gracias por la valoración, da gusto saberlo.",
      "gracias, nos alegra que le gustara.",
      "qué bien, muchas gracias.",
      "gracias por compartirlo.",
    ],
    mixed: [
      "gracias por la valoración. ¿Qué podría haber sido mejor? Nos gustaría saberlo.",
      "gracias. Cuéntenos qué faltó, si quiere.",
      "gracias por su respuesta. Unas palabras sobre lo que falló nos ayudarían.",
      "gracias. Nos gustaría saber qué podemos mejorar.",
    ],
    unhappy: [
      "sentimos no haber cumplido sus expectativas. Cuéntenos qué pasó, por favor.",
      "lo sentimos. ¿Nos cuenta más? Escríbanos o llámenos.",
      "no es lo que queremos, y lo sentimos. Póngase en contacto con nosotros.",
      "lo lamentamos. Nos gustaría saber qué ocurrió; escríbanos o llámenos, como le venga mejor.",
    ],
  },
  themes: {
    waiting: {
      happy: [
        "Nos alegra que el horario le viniera bien.",
        "Su tiempo es importante, así que da gusto leerlo.",
        "Nos alegra no haberle hecho esperar.",
        "Gracias por mencionar la puntualidad.",
      ],
      unhappy: [
        "Sentimos haberle hecho esperar.",
        "Su tiempo es importante, y sentimos no haberlo respetado mejor.",
        "Entendemos lo molesto que es perder así el tiempo.",
        "Sentimos que fallara la puntualidad.",
      ],
    },
    price: {
      happy: [
        "Nos alegra que el precio le pareciera justo.",
        "Es bueno saber que le mereció la pena.",
        "Nos alegra que le pareciera un buen precio.",
        "Gracias por mencionar el precio: a todo el mundo le interesa.",
      ],
      unhappy: [
        "Sentimos que el precio le decepcionara.",
        "Entendemos que el precio importa, y sentimos que no le pareciera bien.",
        "Sentimos que no le pareciera un precio adecuado.",
        "Si quiere repasar el precio con nosotros, escríbanos o llámenos.",
      ],
    },
    explanation: {
      happy: [
        "Nos alegra que todo quedara claro.",
        "Es bueno saber que se sintió bien informado o informada.",
        "Explicar bien las cosas es importante para nosotros, gracias por decirlo.",
        "Gracias por mencionar las explicaciones.",
      ],
      unhappy: [
        "Sentimos que las cosas no quedaran más claras.",
        "Merecía una explicación más clara, y lo sentimos.",
        "Sentimos no haber informado mejor.",
        "Si le queda alguna duda, pregúntenos.",
      ],
    },
    kindness: {
      happy: [
        "Nos alegra mucho que el trato le gustara.",
        "Gracias por sus palabras sobre quienes trabajan aquí.",
        "Da gusto saber que se sintió en buenas manos.",
        "Las personas marcan la diferencia, así que da gusto leerlo.",
      ],
      unhappy: [
        "Sentimos el trato recibido.",
        "Todo el mundo merece respeto, y sentimos que no fuera así.",
        "Nadie debería sentirse así.",
        "Sentimos que el trato no fuera el que esperaba.",
      ],
    },
    result: {
      happy: [
        "Nos alegra de verdad que saliera bien.",
        "Qué bien que le guste cómo quedó todo.",
        "Un resultado así nos alegra mucho.",
        "Es justo lo que esperamos conseguir.",
      ],
      unhappy: [
        "Sentimos que no saliera como debía.",
        "Sentimos el resultado.",
        "Tenía razón al esperar más, y lo sentimos.",
        "Entendemos su decepción.",
      ],
    },
    booking: {
      happy: [
        "Nos alegra que fuera fácil organizarlo.",
        "Es bueno saber que todo le vino bien.",
        "Gracias por mencionar cómo se organizó.",
        "Nos alegra que concertarlo fuera bien.",
      ],
      unhappy: [
        "Sentimos las molestias al organizarlo.",
        "Sentimos que no fuera más fácil organizarlo.",
        "Organizarlo no debería haber dado tantos problemas.",
        "Sentimos las molestias antes de empezar siquiera.",
      ],
    },
    cleanliness: {
      happy: [
        "Nos alegra que notara la limpieza.",
        "Es bueno saber que todo estaba limpio.",
        "La limpieza es importante para nosotros, gracias por mencionarla.",
        "Nos alegra que lo encontrara todo tan limpio.",
      ],
      unhappy: [
        "Sentimos que no estuviera tan limpio como debía.",
        "Todo el mundo debería poder contar con la limpieza.",
        "Sentimos no haber estado a la altura en la limpieza.",
        "Entendemos lo desagradable que fue.",
      ],
    },
    access: {
      happy: [
        "Nos alegra que fuera fácil llegar.",
        "Es bueno saber que llegar no fue un problema.",
        "Gracias por mencionarlo: ayuda a otros a llegar.",
        "Nos alegra que el acceso fuera cómodo.",
      ],
      unhappy: [
        "Sentimos que fuera difícil llegar.",
        "Sentimos que el acceso no fuera más fácil.",
        "Gracias por señalar lo difícil que fue llegar.",
        "Todo el mundo debería poder llegar sin problemas, y sentimos que no fuera así.",
      ],
    },
    "follow-up": {
      happy: [
        "Nos alegra que también después se sintiera en buenas manos.",
        "Estar ahí después es importante para nosotros, gracias por mencionarlo.",
        "Es bueno saber que también después fue todo bien.",
        "Nos alegra haber podido estar ahí después.",
      ],
      unhappy: [
        "Sentimos no haber estado ahí después.",
        "No debería haberse quedado esperando así.",
        "Sentimos cómo quedaron las cosas.",
        "También después debería poder contar con nosotros, y lo sentimos.",
      ],
    },
    damage: {
      happy: [
        "Nos alegra que todo llegara a buen fin.",
        "Es bueno saber que todo estuvo en buenas manos.",
        "Gracias por fijarse en el cuidado.",
        "Cuidar de lo ajeno es importante para nosotros.",
      ],
      unhappy: [
        "Sentimos mucho los daños.",
        "Sentimos que algo resultara dañado.",
        "Póngase en contacto con nosotros para hablar de los daños, por favor.",
        "Entendemos su disgusto.",
      ],
    },
    thoroughness: {
      happy: [
        "Hacer las cosas bien es importante para nosotros, así que da gusto leerlo.",
        "Gracias por fijarse en los detalles.",
        "Nos alegra que se notara el cuidado.",
        "Es bueno saber que el trabajo se hizo con cuidado.",
      ],
      unhappy: [
        "Sentimos que no se hiciera con más cuidado.",
        "Debería poder esperar más cuidado.",
        "Sentimos no haber sido más minuciosos.",
        "Hacía falta más atención, y lo sentimos.",
      ],
    },
    honesty: {
      happy: [
        "Su confianza significa mucho para nosotros.",
        "Es bueno saber que pudo confiar en nosotros.",
        "Hablar claro es importante para nosotros, gracias por decirlo.",
        "Nos alegra que el trato le pareciera honrado.",
      ],
      unhappy: [
        "Sentimos haberle dado motivos para dudar.",
        "Debería poder confiar en nosotros, y sentimos que no fuera así.",
        "Sentimos que el trato no le pareciera honrado.",
        "Nos gustaría entender qué pasó.",
      ],
    },
  },
};
