using Kingcup.Core.Exchange;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Server.Services;
using Kingcup.Server.Team;
using Kingcup.Storage;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Exchange;

/// <summary>Services or practitioners on their way in, inside one change of the setup.</summary>
internal sealed class SetupImport(SetupChange change, ImportRow import, Tally tally)
{
    private readonly ImportKind _kind = ImportAnswer.KindOf(import);
    private readonly List<Guid> _added = [],
        _categories = [],
        _qualifications = [];
    private readonly HashSet<string> _names = new(StringComparer.OrdinalIgnoreCase);
    private Setup _setup = change.Setup;

    private LocalDate Today => _setup.Today(change.Change.At);

    /// <summary>Makes the categories and qualifications that the rows name and the business does not have.</summary>
    internal async Task MakeMissingAsync(IEnumerable<RowText> rows)
    {
        List<RowText> all = [.. rows];
        if (_kind == ImportKind.Services)
        {
            foreach (
                string name in Missing(all.Select(row => row["category"]), _setup.Categories.Select(category => category.Category.Name))
            )
            {
                Category made = new()
                {
                    Id = Guid.CreateVersion7(),
                    Name = name,
                    Order = _setup.Categories.Count + _categories.Count + 1,
                };
                await change.Writer.SaveAsync(made);
                await change.RecordAsync("category", made.Id, "Imported", null, new { name, import = import.Id });
                _categories.Add(made.Id);
                tally.Made.Add(Say($"category {name}"));
            }
        }

        IEnumerable<string> held = all.SelectMany(row => FieldText.List(row["qualifications"]))
            .Select(text => _kind == ImportKind.Practitioners ? FieldText.Held(text)?.Name ?? "" : text);
        foreach (string name in Missing(held, _setup.Parts.Qualifications.Select(qualification => qualification.Name)))
        {
            Qualification made = new(Guid.CreateVersion7(), name);
            await change.Writer.SaveAsync(made);
            await change.RecordAsync("qualification", made.Id, "Imported", null, new { name, import = import.Id });
            _qualifications.Add(made.Id);
            tally.Made.Add(Say($"qualification {name}"));
        }

        if (tally.Made.Count > 0)
            _setup = await SetupReader.ReadAsync(change.Connection);
        _names.UnionWith(
            _kind == ImportKind.Services
                ? _setup.Parts.Services.Select(service => service.Service.Name)
                : _setup.Practitioners.Select(practitioner => practitioner.Name)
        );
    }

    /// <summary>Checks a row as the screens are checked, and adds what it says.</summary>
    internal async Task AddAsync(CsvRow row, RowText text)
    {
        Checks checks = new();
        if (_names.Contains(text["name"]) && tally.Takes(row, checks))
        {
            tally.Knows(row, $"{text["name"]} is there already.");
            return;
        }

        Guid id = Guid.CreateVersion7();
        int place = tally.Good + 1;
        Func<Task> save;
        object document;
        if (_kind == ImportKind.Services)
        {
            ServiceDocument service = RowTexts.Service(text, _setup, Today, checks);
            ListedService listed = service.Check(checks, _setup, id, _setup.Parts.Services.Count + place, null);
            (save, document) = (() => change.Writer.SaveAsync(listed, change.Change.At), service);
        }
        else
        {
            PractitionerDocument person = RowTexts.Practitioner(text, _setup, Today, _setup.Practitioners.Count + place, checks);
            ListedPractitioner listed = person.Check(checks, _setup, id, _setup.Practitioners.Count + place, null);
            Practitioner qualified = listed.Practitioner with
            {
                Qualifications =
                [
                    .. person.Qualifications!.Select(held => new HeldQualification(held.QualificationId, held.From, held.Until)),
                ],
            };
            (save, document) = (() => change.Writer.SaveAsync(listed with { Practitioner = qualified }), person);
        }

        if (!tally.Takes(row, checks))
            return;
        tally.Good++;
        await save();
        await change.RecordAsync(_kind == ImportKind.Services ? "service" : "practitioner", id, "Imported", null, document);
        _names.Add(text["name"]);
        _added.Add(id);
    }

    /// <summary>Notes what was added, so that it can be taken back.</summary>
    internal async Task NoteAsync()
    {
        await ImportStore.AddRowsAsync(change.Connection, import.Id, _kind == ImportKind.Services ? "service" : "practitioner", _added);
        await ImportStore.AddRowsAsync(change.Connection, import.Id, "category", _categories);
        await ImportStore.AddRowsAsync(change.Connection, import.Id, "qualification", _qualifications);
    }

    private static List<string> Missing(IEnumerable<string> named, IEnumerable<string> there) =>
        [
            .. named
                .Select(text => text.Trim())
                .Where(text => text.Length is > 0 and <= 200 && !text.Any(char.IsControl))
                .Distinct(StringComparer.OrdinalIgnoreCase)
                .Except(there, StringComparer.OrdinalIgnoreCase),
        ];
}
