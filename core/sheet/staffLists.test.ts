import { said } from "@amigo/language/say";
import { describe, expect, test } from "vitest";
import { understoodIn } from "../testing/understoodIn";

describe("a list of staff", () => {
  test.each([
    [
      "by a title for teachers",
      "Instructor,Subject,Work email\nRavi Lindqvist,Maths,ravi@copperwheel.example\nMarta Okonjo,Art,marta@copperwheel.example\nTeo Bramwell,Music,teo@copperwheel.example",
      "Instructor",
    ],
    [
      "by what their jobs are",
      "Name,Position,E-mail,Room\nIlse Tamm,Head coach,ilse@copperwheel.example,12\nJuno Abara,Office manager,juno@copperwheel.example,1\nTomas Ruiz,Coach,tomas@copperwheel.example,14",
      "Position",
    ],
    [
      "by a title for jobs",
      "First name,Last name,Job title,E-mail\nIlse,Tamm,Rigging,ilse@copperwheel.example\nJuno,Abara,Front desk,juno@copperwheel.example",
      "Job title",
    ],
    [
      "in German",
      "Nachname;Vorname;Dienststellung;Kürzel;Dienstmail\nTamm;Ilse;Studienrätin;TAM;ilse@copperwheel.example\nRuiz;Tomas;Referendar;RUI;tomas@copperwheel.example",
      "Dienststellung",
    ],
    [
      "in Dutch",
      "Naam;Functie;E-mail\nIlse Tamm;Conciërge;ilse@copperwheel.example\nTomas Ruiz;Leerkracht;tomas@copperwheel.example",
      "Functie",
    ],
    [
      "in Polish",
      "Nazwisko;Imię;Stanowisko;E-mail\nTamm;Ilse;Dyrektor;ilse@copperwheel.example\nRuiz;Tomas;Sekretarz;tomas@copperwheel.example",
      "Stanowisko",
    ],
  ])("makes nobody a student, and says why: %s", (_, text, column) => {
    const { students, questions } = understoodIn(text);
    expect(students).toEqual([]);
    expect(said(questions)[0]?.about).toContain(`looks like a list of staff, as "${column}"`);
  });

  test.each([
    [
      "a class list with its teacher",
      "Name,Class,Teacher,Email\nTove Skov,3B,Ms Hale,ane@lettr.example\nAron Feld,4A,Mr Dunmore,max@lettr.example\nLiv Dahl,3B,Ms Hale,rut@lettr.example",
    ],
    [
      "players with their positions",
      "Name,Position,Squad,Email\nTove Skov,Keeper,U12,ane@lettr.example\nAron Feld,Striker,U14,max@lettr.example\nLiv Dahl,Striker,U12,rut@lettr.example",
    ],
    [
      "a play's cast",
      "Student,Role,Class,Parent email\nTove Skov,Head teacher,3B,ane@lettr.example\nAron Feld,Coach driver,4A,max@lettr.example\nLiv Dahl,Manager,3B,rut@lettr.example",
    ],
    [
      "parents whose jobs are asked",
      "Child,Class,Parent,Parent's job title,Parent's email\nTove Skov,3B,Ane Skov,Teacher,ane@lettr.example\nAron Feld,4A,Max Feld,Trainer,max@lettr.example\nLiv Dahl,3B,Rut Dahl,Doctor,rut@lettr.example",
    ],
    [
      "children under the names of their coaches",
      "Name,Coach,Coach email,E-mail\nTove Skov,Ilse Tamm,ilse@copperwheel.example,ane@lettr.example\nAron Feld,Tomas Ruiz,tomas@copperwheel.example,max@lettr.example\nLiv Dahl,Ilse Tamm,ilse@copperwheel.example,rut@lettr.example",
    ],
  ])("isn't %s", (_, text) => {
    const { students } = understoodIn(text);
    expect(students.map(({ given, family }) => `${given} ${family}`).sort()).toEqual([
      "Aron Feld",
      "Liv Dahl",
      "Tove Skov",
    ]);
  });
});
