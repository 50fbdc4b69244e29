import type { Language } from "./language";

export const fr: Language = {
  code: "fr",
  concepts: {
    student: `élève élèves enfant enfants étudiant étudiante adhérent adhérente adhérents membre membres joueur joueuse joueurs licencié licenciée licenciés
      participant participante inscrit fils fille apprenant chanteur choriste danseur danseuse nageur sportif jeune jeunes stagiaire écolier mineur athlète cavalier`,
    guardian: `parent parents tuteur tutrice responsable responsables responsable_légal responsable_legal représentant représentant_légal représentants contact contacts
      adulte adultes rl resp resp_légal référent_famille titulaire`,
    mother: `mère maman mères madame`,
    father: `père papa pères monsieur`,
    household: `famille familles foyer ménage`,
    staff: `enseignant enseignante enseignants professeur professeure professeur_principal prof maître maîtresse entraîneur entraîneuse coach animateur animatrice
      éducateur éducatrice moniteur monitrice instituteur institutrice encadrant chef encadré_par pp professeurs responsable_du_groupe directeur`,
    emergency: `urgence urgences`,
    doctor: `médecin docteur médecin_traitant`,
    self: `votre vos mon ma mes vous ton ta`,
    sibling: `frère sœur soeur fratrie frères sœurs`,
    name: `nom noms nom_complet nom_et_prénom dénomination`,
    surname: `nom nom_de_famille patronyme nom_famille nom_d_usage nom_usage`,
    given: `prénom prénoms pren petit_nom`,
    nickname: `surnom appelé`,
    number: `numéro num matricule identifiant id n° numéro_d_élève ine code référence numero_de_licence licence no`,
    class: `classe classes groupe groupes section sections division divisions cours atelier ateliers promotion promo regroupement`,
    team: `équipe équipes catégorie catégories formation effectif pupitre`,
    level: `niveau niveaux degré année_d_étude cycle année`,
    site: `site sites lieu école établissement bâtiment campus gymnase antenne salle`,
    email: `mail email courriel courriels e_mail mèl mel adresse_mail adresse_électronique adresse_email adresse_courriel mails adresse_e_mail courrier_électronique
      messagerie adel`,
    address: `adresse adresses`,
    phone: `téléphone tél tel portable mobile gsm numéro_de_téléphone fixe téléphones fax`,
    relation: `lien lien_de_parenté parenté relation qualité lien_avec statut`,
    birth: `naissance date_de_naissance né née né_e_le âge anniversaire ddn lieu_de_naissance né_le`,
    submitted: `horodateur horodatage envoyé soumis répondu date_de_réponse reçu rempli heure_de_début saisie_le date_de_soumission`,
    season: `saison année_scolaire trimestre`,
    street: `rue adresse_postale domicile voie adresse_du_domicile logement`,
    town: `ville commune pays localité nationalité département`,
    postcode: `code_postal cp`,
    health: `allergie allergies santé médical médicaux maladie maladies régime régime_alimentaire handicap traitement asthme vaccination pai médicament médicaments
      intolérance alimentaire besoins_particuliers`,
    gender: `sexe genre civilité`,
    consent: `autorisation autorisations autorise droit_à_l_image droit_image photo photos accord consentement accepte rgpd signature peut diffusion`,
    notes: `remarque remarques commentaire commentaires observations observation note notes divers précisions informations_complémentaires`,
    job: `intitulé_du_poste personnel_n employé employée ?fonction ?poste ?service`,
    counter: `ordre ligne rang`,
    money: `cotisation paiement payé montant tarif règlement facture prix`,
    private: `religion iban mot_de_passe sécurité_sociale quotient_familial revenus`,
    first: `premier première 1er 1ère principal`,
    second: `deuxième second seconde autre 2e 2ème 2nd conjoint`,
    third: `troisième 3e 3ème`,
    fourth: `quatrième 4e 4ème`,
    fifth: `cinquième 5e 5ème`,
  },
  small: `le la les de du des d l et ou à au aux un une est dans pour quel quelle quels quelles en sur par qui que votre avec se trouve`,
  totals: `total totaux somme effectif_total nombre`,
  given: `jean pierre michel philippe alain nicolas christophe laurent thomas julien antoine alexandre maxime hugo lucas léo louis gabriel raphaël jules adam arthur nathan paul
    ethan mathis théo baptiste clément romain guillaume mathieu olivier françois jacques daniel bernard thierry éric stéphane pascal sébastien frédéric marie jeanne françoise monique
    catherine nathalie isabelle jacqueline anne sylvie martine nicole céline sandrine valérie stéphanie véronique sophie émilie julie camille manon léa emma jade louise alice chloé inès
    lina mila rose anna juliette zoé clara lucie charlotte sarah eva margaux mathilde pauline élise amélie aurélie virginie claire hélène agathe adèle éloïse noémie maëlys romane
    yanis mehdi karim rachid amina leïla nadia samira fatou mamadou aminata ousmane noé gaspard malo enzo timéo`,
};
