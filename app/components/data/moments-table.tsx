import { plain, sdsOf, type Moments } from "../../../core";

/** A covariance matrix in place of rows. */
export function MomentsTable({ moments, unit }: { moments: Moments; unit: string }) {
  const { names, n, means, covariance, standardised } = moments;
  const sds = sdsOf(moments);
  return (
    <div className="screen moments-screen">
      <p className="serif">
        This study knows its {unit} only by the means and covariances of {n} of them.
        {standardised &&
          " The correlations came without standard deviations, so every variable counts in standard deviations."}
      </p>
      <table className="numbers">
        <caption className="visually-hidden">Covariances</caption>
        <thead>
          <tr>
            <th scope="col">covariance</th>
            {names.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
            <th scope="col">mean</th>
            <th scope="col">SD</th>
          </tr>
        </thead>
        <tbody>
          {names.map((name, i) => (
            <tr key={name}>
              <td>{name}</td>
              {names.map((other, j) => (
                <td key={other}>{j <= i ? plain(covariance[i]![j]!) : ""}</td>
              ))}
              <td>{plain(means[i]!)}</td>
              <td>{plain(sds[i]!)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
