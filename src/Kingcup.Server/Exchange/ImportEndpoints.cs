using System.Globalization;
using Hangfire;
using Kingcup.Core.Exchange;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Exchange;

/// <summary>Files of clients, services and practitioners on their way in.</summary>
internal static class ImportEndpoints
{
    /// <summary>How long a file is kept at the most.</summary>
    internal static readonly Duration KeptFor = Duration.FromDays(7);

    private const int Sample = 5,
        Page = 200,
        Latest = 30;
    private static readonly ImportState[] _open = [ImportState.Uploaded, ImportState.Checked, ImportState.Failed];

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/imports").RequireAuthorization(Rights.EditSetup).WithTags("Imports").Problems();
        group
            .MapPost("", UploadAsync)
            .DisableAntiforgery()
            .WithMetadata(
                new RequestSizeLimitAttribute(CsvFile.MostBytes + 65_536),
                new RequestFormLimitsAttribute { MultipartBodyLengthLimit = CsvFile.MostBytes + 65_536 }
            )
            .ProducesProblem(413)
            .WithSummary("Uploads a CSV file of clients, services or practitioners: 64 MB at the most. Nothing is taken over yet.");
        group.MapGet("", ListAsync).WithSummary("The latest imports, newest first.");
        group
            .MapGet("/{id:guid}", OneAsync)
            .WithSummary("An import with its fields, its mapping and its first rows; ask again to see how far it is.");
        group
            .MapPut("/{id:guid}/encoding", EncodeAsync)
            .ProducesProblem(409)
            .WithSummary("Reads the file again in another encoding, where letters come out wrong.");
        group
            .MapPost("/{id:guid}/check", CheckAsync)
            .ProducesProblem(409)
            .WithSummary("Checks every row against the mapping, keeping nothing. Answers at once; the check goes on beside.");
        group
            .MapPost("/{id:guid}/run", RunAsync)
            .ProducesProblem(409)
            .WithSummary("Takes the rows over: all or none, or the good ones only. Answers at once; the import goes on beside.");
        group
            .MapPost("/{id:guid}/undo", UndoAsync)
            .ProducesProblem(409)
            .WithSummary("Takes an import back, except for what something rests on since.");
        group
            .MapDelete("/{id:guid}", GiveUpAsync)
            .ProducesProblem(409)
            .WithSummary("Gives up an import that has brought nothing, with its file.");
        group.MapGet("/{id:guid}/faults", FaultsAsync).WithSummary("Rows that are not taken and why, in order, 200 at a time.");
        group
            .MapGet("/{id:guid}/faults.csv", FaultFileAsync)
            .WithSummary("The same rows as a CSV file, with what is wrong, to be mended and uploaded again.")
            .Produces(200, contentType: "text/csv");
    }

    private static async Task<Created<ImportAnswer>> UploadAsync(
        IFormFile? file,
        string? kind,
        string? encoding,
        HttpContext http,
        Database database,
        IClock clock
    )
    {
        if (!Enum.TryParse(kind, ignoreCase: true, out ImportKind what) || !Enum.IsDefined(what))
            throw Refused.Invalid("kind", "Say what the rows are: clients, services or practitioners.");
        if (file is null)
            throw Refused.Invalid("file", "Choose a file.");
        if (file.Length > CsvFile.MostBytes)
            throw new Refused(StatusCodes.Status413PayloadTooLarge, "too-large", "The file is too large: 64 MB at the most.", "file");
        using MemoryStream memory = new((int)file.Length);
        await file.CopyToAsync(memory);
        byte[] bytes = memory.ToArray();
        CsvShape shape = CsvFile.Look(bytes, what, encoding);
        string name = new([.. Path.GetFileName(file.FileName).Where(letter => !char.IsControl(letter)).Take(200)]);
        ImportRow row = new()
        {
            Id = Guid.CreateVersion7(),
#pragma warning disable CA1308 // The database writes kinds in lower case.
            Kind = what.ToString().ToLowerInvariant(),
#pragma warning restore CA1308
            FileName = name.Length == 0 ? "file.csv" : name,
            Actor = http.Actor().Name,
            At = clock.GetCurrentInstant(),
            Rows = shape.Rows,
            Encoding = shape.Encoding,
            Delimiter = shape.Delimiter,
            Heads = shape.Heads,
            HasFile = true,
        };
        await using NpgsqlConnection connection = await database.OpenAsync();
        await ImportStore.AddAsync(connection, row, bytes);
        await ImportStore.ForgetAsync(connection, row.At - KeptFor);
        return TypedResults.Created($"/api/v1/imports/{row.Id}", Whole(row, bytes));
    }

    private static async Task<Ok<ImportAnswer[]>> ListAsync(Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok((await ImportStore.LatestAsync(connection, Latest)).Select(ImportAnswer.Of).ToArray());
    }

    private static async Task<Ok<ImportAnswer>> OneAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ImportRow row = await FindAsync(connection, id);
        // The first rows are wanted while somebody says what they mean; not each time progress is asked for.
        bool open = row.HasFile && _open.Contains(Enum.Parse<ImportState>(row.State));
        return TypedResults.Ok(Whole(row, open ? await ImportStore.FileAsync(connection, id) : null));
    }

    private static async Task<Ok<ImportAnswer>> EncodeAsync(Guid id, ImportEncodingRequest request, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ImportRow row = await FindAsync(connection, id);
        if (!row.HasFile)
            throw NoFile();
        byte[] file = await ImportStore.FileAsync(connection, id);
        CsvShape shape = CsvFile.Look(file, ImportAnswer.KindOf(row), request.Encoding ?? "");
        if (!await ImportStore.ReadAgainAsync(connection, id, _open, shape.Encoding, shape.Delimiter, shape.Heads, shape.Rows))
            throw NotNow();
        return TypedResults.Ok(Whole(await FindAsync(connection, id), file));
    }

    private static async Task<Accepted<ImportAnswer>> CheckAsync(
        Guid id,
        ImportMapping request,
        HttpContext http,
        Database database,
        IBackgroundJobClient jobs
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ImportRow row = await FindAsync(connection, id);
        request.Check(ImportAnswer.KindOf(row), row.Heads.Length);
        if (!row.HasFile)
            throw NoFile();
        return await StartAsync(http, connection, id, _open, ImportState.Checking, jobs, ImportWork.TextOf(request));
    }

    private static async Task<Accepted<ImportAnswer>> RunAsync(
        Guid id,
        ImportRunRequest request,
        HttpContext http,
        Database database,
        IBackgroundJobClient jobs
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ImportRow row = await FindAsync(connection, id);
        if (row.State == nameof(ImportState.Checked))
        {
            if (!row.HasFile)
                throw NoFile();
            if (row.Good == 0)
                throw new Refused(
                    StatusCodes.Status409Conflict,
                    "nothing-to-take",
                    "No row of this file can be taken. Look at what is wrong with them."
                );
            if (row.Bad > 0 && !request.GoodRowsOnly)
                throw new Refused(
                    StatusCodes.Status409Conflict,
                    "bad-rows",
                    $"{Count(row.Bad, "row", "rows")} cannot be taken. Mend the file, or take the good rows only."
                );
        }

        return await StartAsync(
            http,
            connection,
            id,
            [ImportState.Checked],
            ImportState.Importing,
            jobs,
            goodRowsOnly: request.GoodRowsOnly
        );
    }

    private static async Task<Accepted<ImportAnswer>> UndoAsync(Guid id, HttpContext http, Database database, IBackgroundJobClient jobs)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await FindAsync(connection, id);
        return await StartAsync(http, connection, id, [ImportState.Imported], ImportState.Undoing, jobs);
    }

    private static async Task<NoContent> GiveUpAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ImportRow row = await FindAsync(connection, id);
        // One that is under way ends with it: what it does is one transaction, which finds that it is gone.
        if (Enum.Parse<ImportState>(row.State) is ImportState.Imported or ImportState.Undoing or ImportState.Undone)
            throw NotNow();
        await ImportStore.RemoveAsync(connection, id);
        return TypedResults.NoContent();
    }

    private static async Task<Ok<ImportFaultAnswer[]>> FaultsAsync(Guid id, Database database, int after = 0)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ImportRow row = await FindAsync(connection, id);
        ImportMapping? mapping = row.Mapping is null ? null : ImportWork.MappingOf(row);
        IReadOnlyList<ImportField> fields = ImportFields.Of(ImportAnswer.KindOf(row));
        return TypedResults.Ok(
            (await ImportStore.FaultsAsync(connection, id, after, Page))
                .Select(fault => new ImportFaultAnswer(
                    fault.Place,
                    fault.Line,
                    fault.IsKnown,
                    fields.FirstOrDefault(field => field.Name == fault.Field)?.Label.ToString() ?? fault.Field,
                    fault.Field is null || mapping is null ? null : new RowText(mapping, fault.Cells).OrNull(fault.Field),
                    fault.Message
                ))
                .ToArray()
        );
    }

    private static async Task<IResult> FaultFileAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ImportRow row = await FindAsync(connection, id);
        return CsvAnswer.Of(
            Say($"{Path.GetFileNameWithoutExtension(row.FileName)} not taken.csv"),
            async csv =>
            {
                await CsvAnswer.RowAsync(csv, [Say("Line"), Say("What is wrong"), .. row.Heads]);
                await using NpgsqlConnection own = await database.OpenAsync();
                int last = 0;
                while (await ImportStore.FaultsAsync(own, id, last, Page) is { Count: > 0 } faults)
                {
                    foreach (ImportFault fault in faults)
                        await CsvAnswer.RowAsync(csv, [fault.Line.ToString(CultureInfo.InvariantCulture), fault.Message, .. fault.Cells]);
                    last = faults[^1].Place;
                }
            }
        );
    }

    private static async Task<Accepted<ImportAnswer>> StartAsync(
        HttpContext http,
        NpgsqlConnection connection,
        Guid id,
        ImportState[] from,
        ImportState to,
        IBackgroundJobClient jobs,
        string? mapping = null,
        bool? goodRowsOnly = null
    )
    {
        if (!await ImportStore.SetStateAsync(connection, id, from, to, mapping, goodRowsOnly))
            throw NotNow();
        try
        {
            string by = http.Actor().Name;
            jobs.Enqueue<ImportWork>(work => work.DoAsync(id, by));
        }
        catch (BackgroundJobClientException)
        {
            // Nobody would ever do it: it stands where it stood, to be tried again.
            await ImportStore.FailAsync(connection, id, from[^1], Say("It could not be begun. Try again."));
            throw;
        }

        return TypedResults.Accepted($"/api/v1/imports/{id}", ImportAnswer.Of(await FindAsync(connection, id)));
    }

    private static Refused NoFile() =>
        new(StatusCodes.Status409Conflict, "no-file", "The file of this import is no longer kept. Upload it again.");

    private static Refused NotNow() =>
        new(StatusCodes.Status409Conflict, "not-now", "This import is not at that step. Look at how far it is.");

    private static async Task<ImportRow> FindAsync(NpgsqlConnection connection, Guid id) =>
        await ImportStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such import.");

    private static ImportAnswer Whole(ImportRow row, byte[]? file)
    {
        ImportKind kind = ImportAnswer.KindOf(row);
        return ImportAnswer.Of(row) with
        {
            Mapping = row.Mapping is not null
                ? ImportWork.MappingOf(row)
                : new ImportMapping([.. ImportFields.Guess(kind, row.Heads).Select(pair => new ImportColumn(pair.Key, pair.Value))]),
            Fields =
            [
                .. ImportFields.Of(kind).Select(import => new ImportFieldAnswer(import.Name, import.Label, import.About, import.IsNeeded)),
            ],
            Sample = file is null
                ? null
                : [.. CsvFile.Rows(file, row.Encoding, row.Delimiter).Skip(1).Take(Sample).Select(csv => (IReadOnlyList<string>)csv.Cells)],
        };
    }
}
