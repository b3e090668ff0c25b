using System.Diagnostics;
using System.Runtime.CompilerServices;
using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Reports;
using BenchmarkDotNet.Running;
using Kingcup.Bench;
using Kingcup.Core.Availability;
using Kingcup.Core.Tests.Reference;

// Usage: Kingcup.Bench FOLDER. A database for the comparison with SQL comes from KINGCUP_BENCH_DATABASE.
string folder = args.ElementAtOrDefault(0) ?? ".";
Directory.CreateDirectory(folder);
Figures figures = new(Path.Combine(folder, "figures.json"));
Summary summary = BenchmarkRunner.Run<OfferedStartsBench>(
    DefaultConfig.Instance.AddJob(Job.Default.WithWarmupCount(6).WithIterationCount(15)).WithArtifactsPath(folder)
);
double Mean(string name) => Report(name).ResultStatistics!.Mean / 1000;
long Allocated(string name) => Report(name).GcStats.GetBytesAllocatedPerOperation(Report(name).BenchmarkCase) ?? 0;
BenchmarkReport Report(string name) =>
    summary.Reports.Single(report => report.BenchmarkCase.Descriptor.WorkloadMethodDisplayInfo.Trim('\'') == name);

double bare = Mean("bare bit sets");
figures.Add("bare bit sets, 60 days", bare, "µs");
figures.Add("offered starts, one line, 60 days", Mean("one line") / bare, "times", "at most 2", "bare bit sets, 60 days");
figures.Add("offered starts, two lines, 60 days", Mean("two lines") / bare, "times", "at most 6", "bare bit sets, 60 days");
figures.Add("offered starts, three lines, 60 days", Mean("three lines") / bare, "times", "at most 20", "bare bit sets, 60 days");
double aDayMore = (Allocated("one line") - Allocated("one line, 30 days")) / 30.0;
figures.Add("allocated for a day more, one line, besides its answer", aDayMore - Unsafe.SizeOf<OfferedStarts>(), "bytes", "0");

FullBook book = new();
SlowBook slow = new(book.Slow);
long began = Stopwatch.GetTimestamp();
int found = slow.AllStarts().Count(start => slow.Ways(start).Any(way => slow.IsOffered(way, Audience.Stranger, FullBook.Now)));
double reference = Stopwatch.GetElapsedTime(began).TotalMicroseconds;
if (found != book.One.Offered(book.Days[1], Audience.Stranger, FullBook.Now).Count)
    throw new InvalidOperationException("The slow reference finds other starts.");
figures.Add("slow reference of the tests, one line, one day", reference / (Mean("one line") / 60), "times", null, "one line, one day");

if (Environment.GetEnvironmentVariable("KINGCUP_BENCH_DATABASE") is { } database)
{
    await using SqlStarts sql = await SqlStarts.FillAsync(database, book);
    (double fromTaken, double fromFree, double engine) = await sql.MeasureAsync(() =>
        book.One.OfferedInOrder(book.Days, Audience.Stranger, FullBook.Now).Sum(day => day.Starts.Count));
    figures.Add("the same question to PostgreSQL with multiranges", fromTaken / engine, "times", "at least 20", "the engine beside it");
    figures.Add("the same from free time laid out in advance", fromFree / engine, "times", null, "the engine beside it");
}

figures.Save();
