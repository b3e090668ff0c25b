using System.Globalization;
using System.Text;
using Kingcup.Core.Exchange;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Exchange;

/// <summary>What the imports read, written out: the same columns, so that a file may go out of one business and into another.</summary>
internal static class ExportEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/export").RequireAuthorization(Rights.EditSetup).WithTags("Imports").Problems();
        group.MapGet("/clients.csv", ClientsAsync).Produces(200, contentType: "text/csv").WithSummary("All clients as CSV.");
        group
            .MapGet("/clients.vcf", CardsAsync)
            .Produces(200, contentType: "text/vcard")
            .WithSummary("All clients as vCard 4.0 (RFC 6350).");
        group
            .MapGet("/services.csv", ServicesAsync)
            .Produces(200, contentType: "text/csv")
            .WithSummary("All services that are done, as CSV. Equipment and further roles have no column.");
        group
            .MapGet("/practitioners.csv", PractitionersAsync)
            .Produces(200, contentType: "text/csv")
            .WithSummary("Everyone who works here, as CSV.");
    }

    private static async Task<IResult> ClientsAsync(HttpContext http, Database database, IClock clock)
    {
        await RecordAsync(http, database, clock, "clients.csv");
        return CsvAnswer.Of(
            "clients.csv",
            async csv =>
            {
                await CsvAnswer.RowAsync(csv, Heads(ImportKind.Clients));
                await using NpgsqlConnection connection = await database.OpenAsync();
                await foreach (ClientRow client in ImportStore.AllClientsAsync(connection))
                {
                    await CsvAnswer.RowAsync(
                        csv,
                        [
                            client.GivenName,
                            client.FamilyName,
                            $"{client.GivenName} {client.FamilyName}",
                            client.Email ?? "",
                            client.Phone ?? "",
                            client.Alert ?? "",
                            YesNo(client.MayBookOnline),
                        ]
                    );
                }
            }
        );
    }

    private static async Task<IResult> CardsAsync(HttpContext http, Database database, IClock clock)
    {
        await RecordAsync(http, database, clock, "clients.vcf");
        return Results.Stream(
            async stream =>
            {
                await using StreamWriter text = new(stream, new UTF8Encoding(encoderShouldEmitUTF8Identifier: false));
                await using NpgsqlConnection connection = await database.OpenAsync();
                await foreach (ClientRow client in ImportStore.AllClientsAsync(connection))
                    await text.WriteAsync(VisitingCard.Of(client.Id, client.GivenName, client.FamilyName, client.Email, client.Phone));
            },
            "text/vcard; charset=utf-8",
            "clients.vcf"
        );
    }

    private static async Task<IResult> ServicesAsync(HttpContext http, Database database, BookReader book, IClock clock)
    {
        Setup setup = await RecordAsync(http, database, clock, "services.csv", book);
        return CsvAnswer.Of(
            "services.csv",
            async csv =>
            {
                await CsvAnswer.RowAsync(csv, Heads(ImportKind.Services));
                foreach (ListedService listed in setup.Services)
                {
                    Service service = listed.Service;
                    StaffRule lead = service.Roles[0];
                    await CsvAnswer.RowAsync(
                        csv,
                        [
                            service.Name,
                            setup.Categories.First(category => category.Category.Id == service.CategoryId).Category.Name,
                            FieldText.Phases(service.Phases.Select(phase => new PhaseText(phase.Minutes, phase.AttendedBy.Count > 0))),
                            Whole(service.Minutes),
                            Currencies.Plain(service.Price, setup.Business.Currency),
                            service.PriceForm switch
                            {
                                PriceForm.OnRequest => "on request",
                                var form => Lower(form),
                            },
                            string.Join("; ", setup.Practitioners.Where(who => lead.Added.Contains(who.Id)).Select(who => who.Name)),
                            string.Join(
                                "; ",
                                lead.Qualifications.Select(id => setup.Parts.Qualifications.First(held => held.Id == id).Name)
                            ),
                            service.Room is { } room ? string.Join("; ", room.Features.Order()) : "none",
                            Whole(service.BufferBeforeMinutes),
                            Whole(service.BufferAfterMinutes),
                            service.Visibility switch
                            {
                                Visibility.WithLink => "link",
                                Visibility.ByPhone => "phone",
                                var shown => Lower(shown),
                            },
                            listed.Description,
                            setup.Parts.TaxRates.FirstOrDefault(rate => rate.Id == listed.TaxRateId)?.Name ?? "",
                            listed.ReturnDays is { } days ? Whole(days) : "",
                        ]
                    );
                }
            }
        );
    }

    private static async Task<IResult> PractitionersAsync(HttpContext http, Database database, BookReader book, IClock clock)
    {
        Setup setup = await RecordAsync(http, database, clock, "practitioners.csv", book);
        LocalDate today = clock.GetCurrentInstant().InUtc().Date;
        return CsvAnswer.Of(
            "practitioners.csv",
            async csv =>
            {
                await CsvAnswer.RowAsync(csv, Heads(ImportKind.Practitioners));
                foreach (
                    ListedPractitioner listed in setup.Parts.Practitioners.Where(practitioner =>
                        !practitioner.Practitioner.IsRetiredOn(today)
                    )
                )
                {
                    Core.Team.Practitioner practitioner = listed.Practitioner;
                    await CsvAnswer.RowAsync(
                        csv,
                        [
                            practitioner.Name,
                            listed.Email ?? "",
                            listed.Phone ?? "",
                            listed.Bio,
                            string.Join("; ", listed.Languages),
                            string.Join(
                                "; ",
                                practitioner.Qualifications.Select(held =>
                                    FieldText.Held(
                                        new HeldText(
                                            setup.Parts.Qualifications.First(other => other.Id == held.QualificationId).Name,
                                            held.From,
                                            held.Until
                                        )
                                    )
                                )
                            ),
                            YesNo(practitioner.BookableOnline),
                            YesNo(practitioner.AcceptsNewClients),
                        ]
                    );
                }
            }
        );
    }

    /// <summary>Who took data out, and when, stands in the history.</summary>
    internal static async Task<Setup> RecordAsync(HttpContext http, Database database, IClock clock, string file, BookReader? book = null)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await History.RecordAsync(
            connection,
            new Subject("export", Guid.Empty),
            "Exported",
            null,
            new { file },
            new Change(http.Actor().Name, clock.GetCurrentInstant())
        );
        return book is null ? null! : await book.SetupAsync(connection);
    }

    private static IEnumerable<string> Heads(ImportKind kind) =>
        ImportFields.Of(kind).Select(import => import.Label.In(Core.Business.Language.English));

    private static string YesNo(bool value) => value ? "yes" : "no";

    private static string Whole(int value) => value.ToString(CultureInfo.InvariantCulture);

    private static string Lower(Enum value)
    {
        string word = value.ToString();
        return char.ToLowerInvariant(word[0]) + word[1..];
    }
}
