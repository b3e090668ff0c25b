using System.Globalization;
using Kingcup.Core.Forms;
using Kingcup.Server.Api;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Npgsql;

namespace Kingcup.Server.Business;

/// <summary>Pictures for anyone, evidence for those who keep the setup.</summary>
internal static class FileEndpoints
{
    private const long MostBody = 60 * 1024 * 1024;
    private const int Edge = 720;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Files").Problems();
        group
            .MapPost("/pictures", AddPictureAsync)
            .DisableAntiforgery()
            .WithMetadata(new RequestSizeLimitAttribute(MostBody), new RequestFormLimitsAttribute { MultipartBodyLengthLimit = MostBody })
            .WithSummary(
                "Uploads a picture: JPEG, PNG, WebP or GIF, 10 MB at the most. It is made smaller, and nothing but the picture "
                    + "is kept of it."
            );
        group
            .MapPost("/evidence", AddEvidenceAsync)
            .DisableAntiforgery()
            .WithMetadata(new RequestSizeLimitAttribute(MostBody), new RequestFormLimitsAttribute { MultipartBodyLengthLimit = MostBody })
            .WithSummary("Uploads evidence of a qualification: PDF, JPEG or PNG, 10 MB at the most.");
        group
            .MapGet("/evidence/{id:guid}", EvidenceAsync)
            .WithSummary("Evidence as it was uploaded.")
            .Produces(200, null, "application/pdf", "image/jpeg", "image/png");
    }

    internal static void MapPublic(RouteGroupBuilder api) =>
        api.MapGet("/pictures/{id:guid}", PictureAsync)
            .AllowAnonymous()
            .WithTags("Public")
            .Limit(Limits.PublicRead)
            .WithSummary("A picture of the business.")
            .Produces(200, null, "image/jpeg", "image/png")
            .ProducesProblem(404);

    private static async Task<Created<MadeAnswer>> AddPictureAsync(IFormFile? file, HttpContext http, SetupDesk desk)
    {
        byte[] bytes = await ReadAsync(file);
        byte[] small =
            await Pictures.ShrinkAsync(bytes, Edge, "image/webp", http.RequestAborted)
            ?? throw Refused.Invalid("file", "That is not a picture we can read. Choose a JPEG, PNG, WebP or GIF.");
        Guid id = await KeepAsync(http, desk, "picture", file!.FileName, "image/webp", small);
        return TypedResults.Created($"/api/public/v1/pictures/{id}", new MadeAnswer(id));
    }

    private static async Task<Created<MadeAnswer>> AddEvidenceAsync(IFormFile? file, HttpContext http, SetupDesk desk)
    {
        byte[] bytes = await ReadAsync(file);
        string type = TypeOf(bytes) ?? throw Refused.Invalid("file", "Choose a PDF, a JPEG or a PNG.");
        Guid id = await KeepAsync(http, desk, "evidence", file!.FileName, type, bytes);
        return TypedResults.Created($"/api/v1/setup/evidence/{id}", new MadeAnswer(id));
    }

    private static async Task<FileContentHttpResult> EvidenceAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredFile file = await StoredFile.FindAsync(connection, id, "evidence") ?? throw Refused.NotFound("There is no such file.");
        return TypedResults.File(file.Bytes, file.ContentType, file.Name);
    }

    private static async Task<FileContentHttpResult> PictureAsync(Guid id, HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredFile file = await StoredFile.FindAsync(connection, id, "picture") ?? throw Refused.NotFound("There is no such picture.");
        // A picture never changes; another one has another address.
        http.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
        return TypedResults.File(file.Bytes, file.ContentType);
    }

    /// <summary>The content of a file that was sent.</summary>
    /// <exception cref="Refused">There is none, or it is too large.</exception>
    internal static async Task<byte[]> ReadAsync(IFormFile? file)
    {
        if (file is null || file.Length == 0) throw Refused.Invalid("file", "Choose a file; this one is empty.");
        if (file.Length > AnswerFiles.MostBytes) throw Refused.Invalid("file", "The file is too large: 10 MB at the most.");
        using MemoryStream memory = new();
        await file.CopyToAsync(memory);
        return memory.ToArray();
    }

    /// <summary>
    /// The name of a file without its folders and the signs nobody sees, some of which turn a name round so that it looks like that of
    /// another kind of file; another name where nothing is left of it.
    /// </summary>
    internal static string NameOf(string name, string otherwise)
    {
        string plain = string.Concat(Path.GetFileName(name).Where(IsSeen)).Trim();
        return plain.Length is 0 or > 200 ? otherwise : plain;
    }

    private static bool IsSeen(char letter) =>
        char.GetUnicodeCategory(letter) is not (UnicodeCategory.Control or UnicodeCategory.Format);

    private static Task<Guid> KeepAsync(HttpContext http, SetupDesk desk, string kind, string name, string type, byte[] bytes) =>
        desk.ChangeAsync(
            http,
            async change =>
            {
                StoredFile made = new()
                {
                    Id = Guid.NewGuid(),
                    Kind = kind,
                    Name = NameOf(name, kind),
                    ContentType = type,
                    Bytes = bytes,
                    CreatedAt = change.Change.At,
                };
                await change.Writer.AddFileAsync(made);
                return made.Id;
            }
        );

    /// <summary>What a file is by its first bytes: PDF, JPEG or PNG; null for anything else.</summary>
    internal static string? TypeOf(byte[] bytes) =>
        bytes.AsSpan().StartsWith("%PDF-"u8) ? "application/pdf"
        : bytes.AsSpan().StartsWith<byte>([0xFF, 0xD8, 0xFF]) ? "image/jpeg"
        : bytes.AsSpan().StartsWith<byte>([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]) ? "image/png" : null;
}
