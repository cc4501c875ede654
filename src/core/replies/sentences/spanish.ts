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
        "nos ha alegrado el día, mil gracias.",
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
        "gracias por contarnos lo bueno y lo malo.",
        "gracias por hablar tan claro.",
        "gracias, esto nos ayuda más que los elogios.",
        "gracias por contarlo todo.",
      ],
      warm: [
        "gracias por una opinión tan sincera, nos ayuda mucho.",
        "gracias por lo bueno, y también por lo otro.",
        "le agradecemos que nos lo haya contado todo.",
        "gracias por una opinión tan justa.",
      ],
      formal: [
        "le agradecemos su opinión equilibrada.",
        "agradecemos su franqueza.",
        "gracias por describir con tanta claridad cómo fue.",
        "le agradecemos que mencione ambas cosas.",
      ],
    },
    unhappy: {
      plain: [
        "lo sentimos. Gracias por decírnoslo.",
        "sentimos que haya sido así.",
        "gracias por decirlo con claridad. Lo sentimos.",
        "esto no debería ser así, y lo sentimos.",
      ],
      warm: [
        "lo sentimos de verdad, y le agradecemos que nos lo cuente.",
        "nos duele leer esto, lo sentimos mucho.",
        "gracias por contárnoslo. Lo sentimos muchísimo.",
        "sentimos mucho no haber estado a la altura.",
      ],
      formal: [
        "le rogamos que acepte nuestras disculpas.",
        "lamentamos mucho que esta haya sido su experiencia.",
        "le pedimos disculpas y le agradecemos que nos avise.",
        "agradecemos su franqueza y le pedimos disculpas.",
      ],
    },
  },
  closing: {
    happy: {
      plain: ["Un saludo.", "Hasta la próxima.", "Se lo diremos a todos.", "Que vaya muy bien."],
      warm: [
        "Se lo contaremos a todo el equipo.",
        "Significa mucho para nosotros.",
        "Un saludo muy cordial.",
        "Ha alegrado el día a todo el equipo.",
      ],
      formal: [
        "Se lo trasladaremos al equipo.",
        "Reciba un cordial saludo.",
        "Será un placer recibirle de nuevo.",
        "Sus palabras nos animan a todos.",
      ],
    },
    mixed: {
      plain: [
        "Vamos a trabajar en ello.",
        "Tomamos nota.",
        "Si quiere contarnos más, escríbanos o llámenos.",
        "Lo vamos a revisar esta semana.",
      ],
      warm: [
        "Nos encantaría hacerlo mejor la próxima vez.",
        "Escríbanos, nos gustaría saber más.",
        "Ya lo hemos hablado aquí y queremos mejorar.",
        "Sus palabras van a cambiar algo aquí.",
      ],
      formal: [
        "Comentaremos sus observaciones con el equipo.",
        "Nos gustaría tener la oportunidad de mejorar.",
        "No dude en ponerse en contacto con nosotros.",
        "Tomaremos muy en serio sus observaciones.",
      ],
    },
    unhappy: {
      plain: [
        "Póngase en contacto con nosotros, por favor: queremos verlo con usted.",
        "Nos gustaría hablarlo. Llámenos o escríbanos, por favor.",
        "Escríbanos o llámenos para que podamos arreglarlo.",
        "Nos gustaría hablar con usted para aclararlo.",
      ],
      warm: [
        "¿Nos deja arreglarlo? Escríbanos o llámenos, le dedicaremos el tiempo que haga falta.",
        "Hable con nosotros, por favor, nos gustaría mucho arreglarlo.",
        "Llámenos o escríbanos: alguien le atenderá con calma.",
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
        "Ser puntuales nos importa, así que nos alegra que funcionara.",
        "A nadie le gusta esperar, y es bueno saber que fue rápido.",
        "Procuramos cumplir con la hora, y nos alegra que se note.",
        "A quien organiza el día le alegrará saber que no hubo esperas.",
      ],
      unhappy: [
        "Esperar así es demasiado para cualquiera.",
        "Su tiempo es tan importante como el nuestro.",
        "Cuando pasa esto es que organizamos mal el día, y lo vamos a revisar.",
        "Nadie debería esperar sin que le digan por qué.",
      ],
    },
    price: {
      happy: [
        "Queremos que el precio sea justo y se sepa antes, gracias por decirlo.",
        "Nos alegra que el precio le pareciera bien.",
        "La claridad en los precios es una promesa nuestra.",
        "Nos alegra que le pareciera un buen precio.",
      ],
      unhappy: [
        "Una factura nunca debería ser una sorpresa.",
        "El precio tiene que estar claro de antemano, y vamos a ver qué pasó.",
        "Entendemos que el precio no era el que tenía en mente, y nos gustaría repasarlo.",
        "Tiene derecho a un precio que se pueda explicar línea por línea.",
      ],
    },
    explanation: {
      happy: [
        "Creemos que hay que saber qué se hace y por qué, y nos alegra leerlo.",
        "Explicar bien las cosas lleva tiempo, y merece la pena.",
        "Gracias por mencionar las explicaciones.",
        "Las preguntas son siempre bienvenidas.",
      ],
      unhappy: [
        "Tendría que haber quedado claro qué se hacía y por qué.",
        "Dejar preguntas sin responder no es aceptable, y las contestaremos con gusto.",
        "Le debemos a todo el mundo una explicación que se entienda.",
        "Que no se explicara mejor es algo que tenemos que cambiar.",
      ],
    },
    kindness: {
      happy: [
        "Se lo diremos a las personas a las que se refiere; les va a encantar.",
        "La amabilidad es lo que más nos importa, qué bien leerlo.",
        "Son las personas las que marcan la diferencia, y les alegrará leerlo.",
        "Cómo tratamos a la gente es lo primero, gracias por notarlo.",
      ],
      unhappy: [
        "A nadie se le debería hablar ni tratar así.",
        "Esa no es la manera en que queremos recibir a la gente.",
        "Queremos tratar a todo el mundo con amabilidad, y hablaremos de esto.",
        "Ese trato no es el que queremos dar.",
      ],
    },
    result: {
      happy: [
        "Que haya salido bien es la mejor noticia.",
        "Para eso estamos, nos alegra leerlo.",
        "Da gusto cuando el trabajo cumple lo que promete.",
        "Estamos orgullosos de un resultado así.",
      ],
      unhappy: [
        "El trabajo tiene que durar, y eso depende de nosotros.",
        "Un resultado así tampoco nos satisface, y nos gustaría revisarlo.",
        "Tendría que haber quedado bien a la primera.",
        "Queremos entender por qué no quedó como debía.",
      ],
    },
    booking: {
      happy: [
        "Debería ser fácil localizarnos, gracias por decir que lo fue.",
        "Encontrar una hora que venga bien es media batalla, y nos alegra haberlo logrado.",
        "Quienes atienden el teléfono lo leerán con gusto.",
        "Contactar con nosotros nunca debería costar.",
      ],
      unhappy: [
        "Reservar con nosotros debería ser fácil, y la reserva tiene que cumplirse.",
        "Los cambios de última hora son un fastidio, y veremos cómo ocurrió.",
        "De una reserva hay que poder fiarse, y eso nos toca arreglarlo.",
        "Vamos a revisar cómo llevamos las reservas.",
      ],
    },
    cleanliness: {
      happy: [
        "Un sitio limpio es lo mínimo, y nos alegra que se note.",
        "El orden es una cuestión de respeto.",
        "A quien limpia le gustará leerlo.",
        "Dejarlo todo tan limpio como lo encontramos es una norma aquí.",
      ],
      unhappy: [
        "Tendría que haber estado limpio, sin excusas.",
        "Nada nuestro debería verse así, y nos ocuparemos.",
        "La limpieza no se discute, y no estuvimos a la altura.",
        "Vamos a revisar quién limpia y cuándo.",
      ],
    },
    access: {
      happy: [
        "Es bueno saber que llegar fue fácil.",
        "Nos alegra que encontrarnos no costara.",
        "Una entrada cómoda ayuda a todos, gracias por mencionarlo.",
        "Que entrar y salir fuera sencillo es una buena noticia.",
      ],
      unhappy: [
        "Llegar no debería ser lo difícil, y veremos qué se puede hacer.",
        "Sabemos que encontrar sitio no es fácil, y sentimos las molestias.",
        "Todo el mundo debería poder entrar, y miraremos qué lo impide.",
        "Vamos a mejorar las indicaciones y el acceso.",
      ],
    },
    "follow-up": {
      happy: [
        "Para nosotros, la atención no acaba con el trabajo.",
        "Nos importa preguntar después cómo va todo.",
        "Nos alegra que le gustara la atención posterior.",
        "Qué bien que le gustara que volviéramos a preguntar.",
      ],
      unhappy: [
        "Si decimos que llamaremos, tenemos que llamar.",
        "Nadie debería tener que insistir para que respondamos.",
        "No es aceptable que no volviera a tener noticias nuestras, y averiguaremos por qué.",
        "Le debíamos una respuesta, y no llegó.",
      ],
    },
    damage: {
      happy: [
        "Tratamos las cosas ajenas como propias, gracias por notarlo.",
        "Cuidar de sus cosas forma parte de nuestro trabajo.",
        "Que todo quedara intacto es como debe ser.",
        "Nos alegra que se notara el cuidado.",
      ],
      unhappy: [
        "Nada debería estropearse en nuestras manos, y queremos solucionarlo.",
        "Enséñenos qué pasó, por favor, y lo revisaremos enseguida.",
        "Lo que se nos confía tiene que volver en perfecto estado.",
        "Nos gustaría verlo y resolverlo con usted.",
      ],
    },
    thoroughness: {
      happy: [
        "Nos gusta dedicar a cada trabajo el tiempo que necesita.",
        "Preferimos comprobarlo todo dos veces, y nos alegra que se note.",
        "Gracias por ver el cuidado que hay detrás.",
        "Hacerlo bien es lo que nos enorgullece.",
      ],
      unhappy: [
        "La prisa no es excusa, y hay que tomarse el tiempo necesario.",
        "No queremos dar a nadie sensación de prisa.",
        "Hacía falta más cuidado, y nos lo tomamos en serio.",
        "Teníamos que haber mirado mejor.",
      ],
    },
    honesty: {
      happy: [
        "La confianza es lo más valioso que se nos puede dar, gracias.",
        "Solo aconsejamos lo que elegiríamos nosotros, y nos alegra que se note.",
        "Para nosotros, una respuesta clara importa más que una venta.",
        "Queremos trabajar con franqueza.",
      ],
      unhappy: [
        "Aquí nadie debería sentir que le presionan.",
        "Tiene que poder fiarse de lo que decimos, y nos preocupa que no fuera así.",
        "Esa impresión no debe darse, y queremos saber cómo surgió.",
        "Queremos ser claros con todo el mundo, y sentimos que no lo pareciera.",
      ],
    },
  },
};
