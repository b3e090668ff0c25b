using Kingcup.Core.Business;

namespace Kingcup.Core.Exchange;

/// <summary>What a file of rows may describe.</summary>
public enum ImportKind
{
    /// <summary>Clients.</summary>
    Clients,

    /// <summary>Services.</summary>
    Services,

    /// <summary>Practitioners.</summary>
    Practitioners,
}

/// <summary>One thing a row may say.</summary>
/// <param name="Name">Stable name, such as "givenName".</param>
/// <param name="Label">What people call it; also the head of its column in an export.</param>
/// <param name="About">How it is to be written.</param>
/// <param name="IsNeeded">Whether no row can do without it.</param>
/// <param name="AlsoCalled">Other heads by which its column is known, in lower case.</param>
public sealed record ImportField(string Name, Sentence Label, Sentence About, bool IsNeeded, IReadOnlyList<string> AlsoCalled);

/// <summary>The fields of each kind of file, in the order of an export.</summary>
public static class ImportFields
{
    /// <summary>Fields of a client.</summary>
    public static IReadOnlyList<ImportField> Clients { get; } =
    [
        New("givenName", "Given name", "80 characters at the most.", "first name", "forename", "first", "vorname", "prénom", "nombre"),
        New(
            "familyName",
            "Family name",
            "80 characters at the most.",
            "last name",
            "surname",
            "second name",
            "last",
            "nachname",
            "nom",
            "apellido"
        ),
        New(
            "wholeName",
            "Whole name",
            "Where a file has one column for both: 'Ada Quinn' or 'Quinn, Ada'.",
            "name",
            "full name",
            "client",
            "customer",
            "client name",
            "customer name"
        ),
        New(
            "email",
            "E-mail",
            "An address like name@example.com, or nothing.",
            "email",
            "email address",
            "e-mail address",
            "mail",
            "e-mail"
        ),
        New(
            "phone",
            "Phone",
            "With the country, or as dialled at home; or nothing.",
            "telephone",
            "mobile",
            "mobile phone",
            "cell",
            "phone number",
            "mobile number",
            "telefon",
            "tel"
        ),
        New("alert", "Alert", "What the desk has to know, 500 characters at the most.", "note", "notes", "comment", "comments", "warning"),
        New("mayBookOnline", "May book online", "Yes or no; nothing means yes.", "online", "online booking", "allow online booking"),
    ];

    /// <summary>Fields of a service.</summary>
    public static IReadOnlyList<ImportField> Services { get; } =
    [
        Needed("name", "Name", "What it is called.", "service", "service name", "treatment", "title"),
        Needed("category", "Category", "Its category; one that is not there yet is made.", "group", "type", "service category", "section"),
        New("phases", "Phases", "Minutes in order, those without a practitioner marked alone: '20 + 25 alone + 15'.", "steps"),
        New(
            "minutes",
            "Minutes",
            "The whole length: 50, '1:15' or '1 h 15'. Not needed beside phases.",
            "duration",
            "length",
            "time",
            "duration (minutes)",
            "duration (min)",
            "mins",
            "min"
        ),
        New(
            "price",
            "Price",
            "84, 84.00 or 84,00; nothing means no price.",
            "cost",
            "list price",
            "amount",
            "price incl. tax",
            "retail price"
        ),
        New("priceForm", "Price form", "Fixed, from, hourly, free or on request; nothing means fixed.", "price type", "pricing"),
        New(
            "practitioners",
            "Practitioners",
            "Who may do it: names with ; between them, or 'everyone'.",
            "staff",
            "team",
            "who",
            "employees",
            "performed by",
            "therapist",
            "therapists"
        ),
        New(
            "qualifications",
            "Qualifications",
            "Or what one has to hold to do it: names with ; between them. One that is not there yet is made.",
            "qualification",
            "requires",
            "skills"
        ),
        New(
            "roomFeatures",
            "Room features",
            "What the room has to have, with ; between them. Nothing means any room; 'none' means no room.",
            "room",
            "rooms",
            "features"
        ),
        New("bufferBefore", "Buffer before", "Minutes kept before.", "before", "setup time", "prep time"),
        New("bufferAfter", "Buffer after", "Minutes kept after.", "after", "buffer", "cleanup", "clean up time", "processing time"),
        New(
            "visibility",
            "Shown online",
            "Everyone, link, phone or hidden; nothing means everyone.",
            "visibility",
            "online",
            "bookable online",
            "online booking"
        ),
        New("description", "Description", "Text for clients; Markdown is understood.", "text", "details", "online description"),
        New("taxRate", "Tax rate", "The name of one of your tax rates, or its percent.", "tax", "vat", "vat rate", "tax %"),
        New("returnDays", "Return after days", "Days after which clients are advised to come back.", "rebook after", "recommended return"),
    ];

    /// <summary>Fields of a practitioner.</summary>
    public static IReadOnlyList<ImportField> Practitioners { get; } =
    [
        Needed(
            "name",
            "Name",
            "As clients and colleagues read it.",
            "full name",
            "practitioner",
            "staff",
            "employee",
            "staff member",
            "therapist",
            "display name"
        ),
        New(
            "email",
            "E-mail",
            "An address like name@example.com, or nothing.",
            "email",
            "email address",
            "e-mail address",
            "mail",
            "e-mail"
        ),
        New(
            "phone",
            "Phone",
            "With the country, or as dialled at home; or nothing.",
            "telephone",
            "mobile",
            "mobile phone",
            "cell",
            "phone number"
        ),
        New("bio", "About", "A few words for clients.", "bio", "biography", "description", "text"),
        New("languages", "Languages", "With ; between them.", "language", "speaks"),
        New(
            "qualifications",
            "Qualifications",
            "Names with ; between them, dates behind if there are any: 'Laser from 2025-01-10 until 2027-12-28'. One that is not "
                + "there yet is made.",
            "qualification",
            "certificates",
            "skills"
        ),
        New("bookableOnline", "Shown online", "Yes or no; nothing means yes.", "bookable online", "online", "online booking"),
        New("acceptsNewClients", "Takes new clients", "Yes or no; nothing means yes.", "accepts new clients", "new clients"),
    ];

    /// <summary>The fields of a kind.</summary>
    public static IReadOnlyList<ImportField> Of(ImportKind kind) => kind switch
    {
        ImportKind.Clients => Clients,
        ImportKind.Services => Services,
        ImportKind.Practitioners => Practitioners,
        _ => throw new ArgumentOutOfRangeException(nameof(kind)),
    };

    /// <summary>
    /// Which column most likely says which field: the same head as ours first, then another head it is known by. No column is
    /// taken twice.
    /// </summary>
    /// <param name="kind">What the file describes.</param>
    /// <param name="heads">Heads of the columns in order.</param>
    /// <returns>Index of a column by name of the field.</returns>
    public static IReadOnlyDictionary<string, int> Guess(ImportKind kind, IReadOnlyList<string> heads)
    {
        ArgumentNullException.ThrowIfNull(heads);
        List<string> plain = [.. heads.Select(Plain)];
        Dictionary<string, int> found = [];
        foreach (bool exact in new[] { true, false })
        {
            foreach (ImportField field in Of(kind))
            {
                if (found.ContainsKey(field.Name))
                    continue;
                int at = plain.FindIndex(head =>
                    (exact
                        ? head == Plain(field.Label.In(Language.English)) || head == Plain(field.Name)
                        : field.AlsoCalled.Any(other => Plain(other) == head))
                    && !found.ContainsValue(plain.IndexOf(head))
                );
                if (at >= 0)
                    found[field.Name] = at;
            }
        }

        return found;
    }

    /// <summary>A head without case, blanks and marks.</summary>
    private static string Plain(string head) => new([.. head.Where(char.IsLetterOrDigit).Select(char.ToLowerInvariant)]);

    private static ImportField New(string name, Sentence label, Sentence about, params string[] also) =>
        new(name, label, about, false, also);

    private static ImportField Needed(string name, Sentence label, Sentence about, params string[] also) =>
        new(name, label, about, true, also);
}
