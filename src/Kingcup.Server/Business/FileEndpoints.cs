using Kingcup.Server.Api;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Npgsql;
using SkiaSharp;

namespace Kingcup.Server.Business;

/// <summary>Pictures for anyone, evidence for those who keep the setup.</summary>
internal static class FileEndpoints
{
    private const long MostBytes = 10 * 1024 * 1024, MostBody = 60 * 1024 * 1024;
    private const int MostPixels = 50_000_000, Edge = 720;

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
            Shrink(bytes) ?? throw Refused.Invalid("file", "That is not a picture we can read. Choose a JPEG, PNG, WebP or GIF.");
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

    private static async Task<byte[]> ReadAsync(IFormFile? file)
    {
        if (file is null || file.Length == 0) throw Refused.Invalid("file", "Choose a file; this one is empty.");
        if (file.Length > MostBytes) throw Refused.Invalid("file", "The file is too large: 10 MB at the most.");
        using MemoryStream memory = new();
        await file.CopyToAsync(memory);
        return memory.ToArray();
    }

    private static Task<Guid> KeepAsync(HttpContext http, SetupDesk desk, string kind, string name, string type, byte[] bytes) =>
        desk.ChangeAsync(
            http,
            async change =>
            {
                string plain = new([.. Path.GetFileName(name).Where(letter => !char.IsControl(letter))]);
                StoredFile made = new()
                {
                    Id = Guid.NewGuid(),
                    Kind = kind,
                    Name = plain.Length is 0 or > 200 ? kind : plain,
                    ContentType = type,
                    Bytes = bytes,
                    CreatedAt = change.Change.At,
                };
                await change.Writer.AddFileAsync(made);
                return made.Id;
            }
        );

    /// <summary>The picture upright, 720 pixels at its longer edge, without anything else the file held; null when it is none.</summary>
    private static byte[]? Shrink(byte[] bytes)
    {
        using MemoryStream stream = new(bytes);
        using SKCodec? codec = SKCodec.Create(stream);
        if (codec is null || codec.Info.Width < 1 || codec.Info.Height < 1)
            return null;
        if ((long)codec.Info.Width * codec.Info.Height > MostPixels)
            throw Refused.Invalid("file", "The picture has too many pixels: 50 million at the most.");
        using SKBitmap? decoded = SKBitmap.Decode(codec);
        if (decoded is null)
            return null;
        bool turned =
            codec.EncodedOrigin
            is SKEncodedOrigin.RightTop
                or SKEncodedOrigin.LeftBottom
                or SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightBottom;
        int degrees = codec.EncodedOrigin switch
        {
            SKEncodedOrigin.RightTop or SKEncodedOrigin.LeftTop => 90,
            SKEncodedOrigin.BottomRight or SKEncodedOrigin.BottomLeft => 180,
            SKEncodedOrigin.LeftBottom or SKEncodedOrigin.RightBottom => 270,
            _ => 0,
        };
        float scale = Math.Min(1f, (float)Edge / Math.Max(decoded.Width, decoded.Height));
        int width = Math.Max(1, (int)Math.Round(decoded.Width * scale)),
            height = Math.Max(1, (int)Math.Round(decoded.Height * scale));
        using SKSurface surface = SKSurface.Create(
            new SKImageInfo(turned ? height : width, turned ? width : height, SKColorType.Rgba8888, SKAlphaType.Premul)
        );
        SKCanvas canvas = surface.Canvas;
        canvas.Translate((turned ? height : width) / 2f, (turned ? width : height) / 2f);
        canvas.RotateDegrees(degrees);
        canvas.Translate(-width / 2f, -height / 2f);
        using SKImage image = SKImage.FromBitmap(decoded);
        canvas.DrawImage(image, new SKRect(0, 0, width, height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using SKImage drawn = surface.Snapshot();
        using SKData data = drawn.Encode(SKEncodedImageFormat.Webp, 86);
        return data.ToArray();
    }

    private static string? TypeOf(byte[] bytes) =>
        bytes.AsSpan().StartsWith("%PDF-"u8) ? "application/pdf"
        : bytes.AsSpan().StartsWith<byte>([0xFF, 0xD8, 0xFF]) ? "image/jpeg"
        : bytes.AsSpan().StartsWith<byte>([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]) ? "image/png" : null;
}
