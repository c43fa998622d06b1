using System.Threading.RateLimiting;

namespace Pritchel.Web.Api;

/// <summary>Requests that solve a whole case: so many at once from one address, so that no client keeps all cores to itself.</summary>
internal static class HeavyRequests
{
    /// <summary>Name of the limit.</summary>
    public const string Policy = "heavy";

    private const int AtOnce = 4;
    private const int MostWaiting = 32;

    public static void AddHeavyRequests(this IServiceCollection services) =>
        services.AddRateLimiter(limits =>
        {
            limits.AddPolicy(
                Policy,
                context =>
                    RateLimitPartition.GetConcurrencyLimiter(
                        context.Connection.RemoteIpAddress?.ToString() ?? "",
                        _ => new ConcurrencyLimiterOptions { PermitLimit = AtOnce, QueueLimit = MostWaiting }
                    )
            );
            limits.OnRejected = async (rejected, _) =>
                await Results
                    .Problem(
                        $"{AtOnce} cases are being solved for this address and {MostWaiting} wait. Send it again when one is done.",
                        title: "Too many at once; nothing was changed.",
                        statusCode: StatusCodes.Status429TooManyRequests
                    )
                    .ExecuteAsync(rejected.HttpContext);
        });
}
