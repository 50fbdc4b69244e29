import type { Language } from "./language";

export const es: Language = {
  code: "es",
  twoSurnames: true,
  concepts: {
    student: `alumno alumna alumnos alumnas alumnado estudiante estudiantes niño niña niños hijo hija hijos socio socia socios jugador jugadora jugadores participante
      participantes deportista cantante miembro menor escolar inscrito inscrita matriculado nadador bailarín coralista aprendiz chico atleta`,
    guardian: `padre_madre padre_o_madre madre_o_padre padres tutor tutora tutores tutor_legal representante representantes responsable responsables apoderado apoderada acudiente acudientes contacto
      contactos adulto progenitor progenitora progenitores familiar encargado`,
    mother: `madre mamá madres`,
    father: `padre papá`,
    household: `familia familias hogar unidad_familiar`,
    staff: `profesor profesora profesores profe maestro maestra docente docentes entrenador entrenadora entrenadores monitor monitora instructor instructora coordinador tutor_de_grupo tutora_de_grupo
      profesor_tutor educador educadora director profesorado maestros tutor_del_grupo tutor_del_curso tutor_académico`,
    emergency: `emergencia emergencias urgencia`,
    doctor: `médico pediatra doctor`,
    self: `su sus tu tus mi`,
    sibling: `hermano hermana hermanos`,
    name: `nombre nombres nombre_completo nombre_y_apellidos denominación`,
    surname: `apellido apellidos primer_apellido apellido_paterno`,
    given: `nombre nombres nombre_de_pila`,
    nickname: `apodo alias`,
    number: `número núm num matrícula código expediente identificador id dni nie n° nº legajo carné`,
    class: `clase clases curso cursos grupo grupos aula aulas sección secciones taller talleres salón grado_y_grupo paralelo comisión división`,
    team: `equipo equipos categoría categorías cuadrilla plantilla conjunto`,
    level: `nivel niveles grado grados etapa ciclo año`,
    site: `sede sedes centro centros colegio escuela edificio campus plantel local polideportivo`,
    email: `correo correos email mail e_mail correo_electrónico dirección_de_correo correo_e dirección_electrónica emails`,
    address: `dirección direcciones`,
    phone: `teléfono teléfonos tel móvil celular tfno tlf número_de_teléfono fijo telf`,
    relation: `parentesco relación vínculo relación_con`,
    birth: `nacimiento fecha_de_nacimiento edad cumpleaños nacido fecha_nacimiento f_nac lugar_de_nacimiento`,
    submitted: `marca_temporal enviado fecha_de_envío fecha_de_respuesta respondido recibido hora_de_inicio registrado`,
    season: `temporada curso_escolar año_escolar año_académico ciclo_escolar periodo`,
    street: `calle domicilio dirección_postal vivienda piso`,
    town: `ciudad población localidad municipio provincia país nacionalidad`,
    postcode: `código_postal cp`,
    health: `alergia alergias salud enfermedad enfermedades medicación médicas médicos dieta intolerancia intolerancias discapacidad necesidades vacunas seguro tratamiento`,
    gender: `sexo género`,
    consent: `autorización autoriza autorizo permiso consentimiento foto fotos imagen acepta acepto firma puede podemos`,
    notes: `observaciones observación notas nota comentario comentarios otros anotaciones`,
    job: `puesto_de_trabajo puesto empleado empleada ?cargo ?departamento`,
    counter: `orden fila`,
    money: `cuota pago pagado importe precio recibo`,
    private: `religión iban contraseña cuenta_bancaria seguridad_social`,
    first: `primer primero primera principal 1º 1er`,
    second: `segundo segunda otro otra 2º 2do`,
    third: `tercer tercero tercera 3º`,
    fourth: `cuarto cuarta`,
    fifth: `quinto quinta`,
  },
  small: `el la los las de del y o u e un una en al para cuál qué es está por con que a se llama`,
  totals: `total totales suma número_de`,
  given: `antonio josé manuel francisco juan david javier daniel carlos miguel rafael pedro alejandro ángel fernando pablo luis sergio jorge alberto álvaro diego adrián raúl iván rubén óscar
    enrique ramón vicente andrés joaquín hugo mateo martín lucas leo nicolás marcos bruno enzo gonzalo ignacio santiago tomás samuel gabriel maría carmen ana isabel dolores pilar josefa
    rosa cristina laura teresa marta lucía elena sara paula raquel beatriz silvia patricia mónica julia sofía martina valeria daniela alba noa carla emma claudia vera irene nuria
    alicia andrea natalia rocío inés adriana jimena valentina camila mariana ximena guadalupe fernanda alejandra gabriela rebeca miriam lola carlota olivia aitana candela`,
};
