using Microsoft.AspNetCore.StaticFiles;
using Microsoft.Extensions.Primitives;
using Microsoft.Net.Http.Headers;

namespace Kingcup.Server.Api;

/// <summary>
/// The built files of the screens. Where the build has put a packed form (<c>.br</c>) beside a file, that one is sent to whoever takes
/// it: smaller than what could be packed anew for each request, and without the work.
/// </summary>
internal static class BuiltFiles
{
    private const string Packed = ".br",
        Assets = "/assets";

    internal static void Use(WebApplication app)
    {
        FileExtensionContentTypeProvider types = new();
        types.Mappings[Packed] = "application/octet-stream";
        app.Use(
            (context, next) =>
            {
                HttpRequest request = context.Request;
                if (
                    request.Path.StartsWithSegments(Assets)
                    && types.TryGetContentType(request.Path, out _)
                    && !request.Path.Value!.EndsWith(Packed, StringComparison.Ordinal)
                    && app.Environment.WebRootFileProvider.GetFileInfo(request.Path + Packed).Exists
                )
                {
                    context.Response.Headers.Append(HeaderNames.Vary, HeaderNames.AcceptEncoding);
                    if (Takes(request.Headers.AcceptEncoding)) request.Path += Packed;
                }
                return next(context);
            }
        );
        app.UseStaticFiles(new StaticFileOptions
        {
            ContentTypeProvider = types,
            OnPrepareResponse = prepared =>
            {
                HttpResponse response = prepared.Context.Response;
                PathString path = prepared.Context.Request.Path;
                // Built files carry a hash in their name; everything else is asked for anew each time.
                response.Headers.CacheControl = path.StartsWithSegments(Assets) ? "public, max-age=31536000, immutable" : "no-cache";
                if (!path.Value!.EndsWith(Packed, StringComparison.Ordinal)) return;
                response.Headers.ContentEncoding = "br";
                response.ContentType = types.TryGetContentType(path.Value[..^Packed.Length], out string? type) ? type : null;
            },
        });
    }

    private static bool Takes(StringValues acceptEncoding) =>
        StringWithQualityHeaderValue.TryParseList(acceptEncoding, out IList<StringWithQualityHeaderValue>? named)
        && named.Any(one => one.Value.Equals("br", StringComparison.OrdinalIgnoreCase) && one.Quality is not 0);
}
