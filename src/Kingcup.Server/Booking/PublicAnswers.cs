using System.Security.Cryptography;
using Kingcup.Core.Forms;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <summary>A file that answers a question of a booking to come.</summary>
/// <param name="Token">To be sent with the booking as the answer.</param>
/// <param name="Name">Its name.</param>
public sealed record PublicFile(string Token, string Name);

/// <summary>What clients answer when they book online.</summary>
internal static class PublicAnswers
{
    // A sheet of paper, photographed, is still read at this.
    private const int Edge = 2000;
    private const long MostBody = 16 * 1024 * 1024;

    internal static void MapPublic(RouteGroupBuilder group) =>
        group
            .MapPost("/files", SendAsync)
            .Limit(Limits.PublicFile)
            .DisableAntiforgery()
            .WithMetadata(new RequestSizeLimitAttribute(MostBody), new RequestFormLimitsAttribute { MultipartBodyLengthLimit = MostBody })
            .WithSummary(
                "Sends a file that answers a question of a booking to come: PDF, JPEG, PNG or WebP, 10 MB at the most. Of a picture "
                    + "nothing is kept but the picture. What no visit needs is removed after some days."
            )
            .ProducesProblem(409)
            .ProducesProblem(413);

    internal static void Map(RouteGroupBuilder group) =>
        group
            .MapGet("/visits/{id:guid}/answers/{questionId:guid}/file", FileAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("The file a client answered a question with.")
            .Produces(200, null, "application/pdf", "image/jpeg")
            .ProducesProblem(404);

    private static async Task<Created<PublicFile>> SendAsync(
        IFormFile? file,
        HttpContext http,
        Database database,
        BookReader book,
        Addresses addresses,
        IClock clock
    )
    {
        await using (NpgsqlConnection asking = await database.OpenAsync())
        {
            if (!Asked(await book.SetupAsync(asking)).Any(question => question.Kind == QuestionKind.File))
                throw new Refused(StatusCodes.Status409Conflict, "no-file-asked", "This business asks for no file.");
        }

        byte[] bytes = await FileEndpoints.ReadAsync(file);
        bool isPdf = FileEndpoints.TypeOf(bytes) == "application/pdf";
        byte[] kept = isPdf
            ? bytes
            : await Pictures.ShrinkAsync(bytes, Edge, "image/jpeg", http.RequestAborted)
                ?? throw Refused.Invalid("file", "Choose a PDF, or a picture: JPEG, PNG or WebP.");
        string token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32)),
            name = isPdf
                ? FileEndpoints.NameOf(file!.FileName, "file.pdf")
                : FileEndpoints.NameOf(Path.ChangeExtension(file!.FileName, ".jpg"), "picture.jpg");
        NewAnswerFile made = new()
        {
            TokenHash = PublicHolds.HashOf(token)!,
            Device = await addresses.DeviceAsync(http),
            Range = await addresses.RangeAsync(http),
            Name = name,
            ContentType = isPdf ? "application/pdf" : "image/jpeg",
            Bytes = kept,
        };
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (!await AnswerFileStore.AddAsync(connection, made, clock.GetCurrentInstant()))
            throw new Refused(
                StatusCodes.Status429TooManyRequests,
                "files-enough",
                "No more files can be taken at the moment. Book with those you have sent, or bring this one along.",
                "file"
            );
        return TypedResults.Created((string?)null, new PublicFile(token, name));
    }

    private static async Task<FileContentHttpResult> FileAsync(Guid id, Guid questionId, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredFile file =
            await AnswerFileStore.OfVisitAsync(connection, id, questionId) ?? throw Refused.NotFound("There is no such file.");
        // With a name it is kept, and never opened as a page of ours.
        return TypedResults.File(file.Bytes, file.ContentType, file.Name);
    }

    /// <summary>The files a client has sent as answers.</summary>
    /// <param name="database">The database.</param>
    /// <param name="setup">The setup.</param>
    /// <param name="request">What the client sent.</param>
    /// <param name="after">Only those that were sent later.</param>
    internal static async Task<IReadOnlyList<SentFile>> FilesAsync(
        Database database,
        Setup setup,
        PublicBookRequest request,
        Instant after
    )
    {
        HashSet<Guid> asked = [.. Asked(setup).Where(question => question.Kind == QuestionKind.File).Select(question => question.Id)];
        List<(string, byte[])> named =
        [
            .. from given in request.Answers ?? []
            where asked.Contains(given.QuestionId)
            let token = given.Answer?.Trim()
            let hash = PublicHolds.HashOf(token)
            where hash is not null
            select (token, hash),
        ];
        if (named.Count == 0) return [];
        await using NpgsqlConnection connection = await database.OpenAsync();
        return await AnswerFileStore.FindAsync(connection, named, after);
    }

    /// <summary>The answers to what is asked for these services; what nobody asked is passed over.</summary>
    internal static List<VisitAnswerRow> Of(
        Setup setup,
        PublicBookRequest request,
        IReadOnlyList<SentFile> files,
        Checks checks
    )
    {
        List<VisitAnswerRow> kept = [];
        foreach (Question question in Asked(setup).Where(one => one.IsAskedFor(request.Lines!.Select(line => line.ServiceId))))
        {
            string given = request.Answers?.LastOrDefault(one => one.QuestionId == question.Id)?.Answer?.Trim() ?? "",
                field = $"answers.{question.Id}";
            if (question.Fault(given) is { } fault)
            {
                checks.Require(false, field, fault);
                continue;
            }

            string answer = question.Kept(given);
            if (answer.Length == 0) continue;
            SentFile? file = question.Kind == QuestionKind.File ? files.FirstOrDefault(one => one.Token == given) : null;
            if (!checks.Require(question.Kind != QuestionKind.File || file is not null, field, Say("Choose the file once more.")))
                continue;
            kept.Add(
                new VisitAnswerRow
                {
                    QuestionId = question.Id,
                    Question = question.Text,
                    Kind = question.Kind.ToString(),
                    Answer = file?.Name ?? answer,
                    FileId = file?.FileId,
                }
            );
        }

        return kept;
    }

    private static IEnumerable<Question> Asked(Setup setup) =>
        setup.Parts.Questions.Where(question => !question.IsArchived).Select(question => question.Question);
}
