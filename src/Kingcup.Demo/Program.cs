using Kingcup.Demo;
using NodaTime;
using NodaTime.Text;

// Usage: Kingcup.Demo prepare|empty [--clock 2027-03-01T09:00] [--without-book]. The database comes from KINGCUP_DATABASE.
string database = Environment.GetEnvironmentVariable("KINGCUP_DATABASE") ?? throw new InvalidOperationException("Set KINGCUP_DATABASE.");
int at = Array.IndexOf(args, "--clock");
Instant? clock = null;
if (at >= 0)
{
    ParseResult<LocalDateTime> parsed = LocalDateTimePattern
        .CreateWithInvariantCulture("uuuu-MM-ddTHH:mm")
        .Parse(args.ElementAtOrDefault(at + 1) ?? "");
    if (!parsed.Success)
    {
        Console.Error.WriteLine("Write the clock as 2027-03-01T09:00.");
        return 2;
    }

    clock = parsed.Value.InZoneLeniently(DateTimeZoneProviders.Tzdb[DemoBusiness.Zone]).ToInstant();
}

await DemoLoader.PrepareAsync(database, args.Contains("empty"), clock, Console.WriteLine, days: !args.Contains("--without-book"));
return 0;
